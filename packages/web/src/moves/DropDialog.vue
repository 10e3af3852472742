<script setup lang="ts">
import { replaceTracks } from '@tender-orbit/core/document';
import { count, length, number, share, turn } from '@tender-orbit/core/properties';
import { BODY_WAYS, type BodySettings, type BodyWay } from '@tender-orbit/core/simulate';
import { computed, onBeforeUnmount, reactive, ref } from 'vue';
import { useHandlers } from '../actions/index.ts';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSelection } from '../stores/index.ts';
import { CheckField, DialogCard, NumberField, ToggleRow, UiButton } from '../ui/index.ts';
import type { BodiesReply, HingeRequest } from '../workers/bodies-worker.ts';
import { bodiesClient } from './bodies-client.ts';
import BodyHingeFields from './BodyHingeFields.vue';
import { useBars } from './use-bars.ts';

/** Lets products fall as rigid bodies and keys how they settle, so that they rest at a frame: on a beat, when asked. */
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const playhead = usePlayhead();
const selection = useSelection();
const { bars, nearest } = useBars();
const open = ref(false);
const working = ref(false);
const chosen = ref(new Set<string>());
const restAt = ref(0);
const FIELDS = {
  height: length('Falls from', 0, 20),
  stagger: length('Apart', 0, 20),
  spread: length('Strewn by', 0, 20, { step: 0.5 }),
  tumble: number('Tumbled by', 'deg', 0, 720),
  away: length('Comes from', 0.01, 20),
  direction: turn('Direction'),
  flight: number('In the air', 's', 0.1, 5, { step: 0.05 }),
  frequency: number('Swings', '/s', 0.2, 10, { step: 0.1 }),
  damping: share('Damping'),
  bounce: share('Bounce'),
  friction: share('Friction', { max: 2 }),
  home: number('Drawn home in', 's', 0, 5, { step: 0.05 }),
  seed: count('Seed', 0, 0xffffffff),
} as const;
type Name = keyof typeof FIELDS;
const settings = reactive<Record<Name, number>>({
  ...{ height: 0.25, stagger: 0.12, spread: 0, tumble: 12, bounce: 0.25, friction: 0.6, seed: 1 },
  ...{ away: 0.6, direction: 90, flight: 0.5, frequency: 1.2, damping: 0.25, home: 0 },
});
const way = ref<BodyWay>('drop');
const WAYS: Record<BodyWay, string> = { drop: 'Drop', pour: 'Pour', throw: 'Throw', roll: 'Roll', hang: 'Hang' };
const ways = BODY_WAYS.map((value) => ({ value, label: WAYS[value] }));
/** What each way asks for. */
const ASKED: Record<BodyWay, readonly Name[]> = {
  drop: ['height', 'stagger', 'spread', 'tumble', 'bounce', 'friction', 'home', 'seed'],
  pour: ['height', 'stagger', 'spread', 'tumble', 'bounce', 'friction', 'home', 'seed'],
  throw: ['away', 'direction', 'flight', 'stagger', 'tumble', 'bounce', 'friction', 'home', 'seed'],
  roll: ['away', 'direction', 'stagger', 'spread', 'tumble', 'bounce', 'friction', 'home', 'seed'],
  hang: ['height', 'spread', 'tumble', 'frequency', 'damping', 'seed'],
};
const hinge = ref<HingeRequest | null>(null);
const products = computed(() => campaign.set?.products.filter((p) => p.visible) ?? []);

useHandlers({
  'motion.drop': {
    run: () => {
      const picked = products.value.filter(({ id }) => selection.all.includes(id));
      chosen.value = new Set((picked.length > 0 ? picked : products.value).map(({ id }) => id));
      restAt.value = Math.min((campaign.shot?.length ?? 1) - 1, Math.max(playhead.frame, 24));
      open.value = true;
    },
    enabled: () => products.value.length > 0,
  },
});

const client = bodiesClient(take);
onBeforeUnmount(() => client.close());
function run(): void {
  const { set, shot } = campaign;
  if (!set || !shot) return;
  working.value = true;
  const plain = <T,>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
  client.ask({
    ...{ set: plain(set), shot: plain(shot), products: new Map(plain([...campaign.products])) },
    falling: [...chosen.value],
    settings: { ...settings, way: way.value, rate: { ...campaign.rate } } satisfies BodySettings,
    hinge: hinge.value && plain(hinge.value),
    restAt: restAt.value,
  });
}
function take(reply: BodiesReply): void {
  working.value = false;
  if ('failed' in reply) {
    notices.refuse('The drop could not be worked out: the model of a product did not come. Try again.');
    return;
  }
  const { tracks, start, rests } = reply;
  documents.run('shot', campaign.shotId, replaceTracks('Drop as bodies', tracks));
  open.value = false;
  notices.done(
    start < 0
      ? `They rest at frame ${rests + 1}; the first ${-start} frames of their fall lie before the shot.`
      : `They begin to fall at frame ${start + 1} and rest at frame ${rests + 1}.`,
  );
}
function choose(id: string, on: boolean): void {
  const next = new Set(chosen.value);
  if (on) next.add(id);
  else next.delete(id);
  chosen.value = next;
}
</script>

<template>
  <DialogCard :open="open" title="Drop as bodies" :width="520" data-test="drop-dialog" @close="open = false">
    <div class="columns">
      <fieldset class="scroll">
        <legend>What falls</legend>
        <CheckField
          v-for="{ id, name } in products"
          :key="id"
          :label="name"
          :value="chosen.has(id)"
          @change="(on) => choose(id, on)"
        />
      </fieldset>
      <div>
        <ToggleRow
          class="ways"
          label="How they come in"
          :options="ways"
          :value="way"
          @change="(v) => (way = v as BodyWay)"
        />
        <PropertyField
          v-for="name in ASKED[way]"
          :key="name"
          :property="FIELDS[name]"
          :value="settings[name]"
          @change="(v) => (settings[name] = v)"
        />
        <NumberField
          label="At rest at"
          unit="f"
          :step="1"
          :min="1"
          :value="restAt + 1"
          @change="(v) => (restAt = Math.round(v) - 1)"
        />
        <UiButton v-if="bars.length" class="bar" @click="restAt = nearest(restAt)">On the bar</UiButton>
        <BodyHingeFields :value="hinge" :products="products" @change="(v) => (hinge = v)" />
      </div>
    </div>
    <p class="dim">
      Places and turns that these things have in this shot give way to keys of the fall. What moves by keys of its own
      pushes them. They end where the fall takes them, or on their places when they are drawn there.
    </p>
    <div class="row">
      <span class="spread" />
      <UiButton @click="open = false">Cancel</UiButton>
      <UiButton tone="primary" :disabled="working || (chosen.size === 0 && !hinge)" data-test="drop-run" @click="run">
        {{ working ? 'Working it out...' : 'Let them fall' }}
      </UiButton>
    </div>
  </DialogCard>
</template>

<style scoped>
.ways {
  margin: 0 0 8px 20px;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 1.4fr;
  gap: 16px;
  margin: 8px 0;
}
fieldset {
  max-height: 300px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  font-weight: 600;
}
.bar {
  margin: 6px 0 0 20px;
}
</style>
