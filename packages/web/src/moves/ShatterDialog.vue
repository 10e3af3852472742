<script setup lang="ts">
import { BREAK_CELLS } from '@tender-orbit/core/product';
import { count, number, share, turn } from '@tender-orbit/core/properties';
import { STRIKES, type StrikeWay } from '@tender-orbit/core/simulate';
import { computed, reactive, ref } from 'vue';
import { useHandlers } from '../actions/index.ts';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign, usePlayhead, useSelection } from '../stores/index.ts';
import { CheckField, DialogCard, FieldRow, NumberField, SelectField, ToggleRow, UiButton } from '../ui/index.ts';
import { useBars } from './use-bars.ts';
import { useShatter } from './use-shatter.ts';

/** Breaks a product into pieces at a frame: on a beat, when asked. */
const campaign = useCampaign();
const playhead = usePlayhead();
const selection = useSelection();
const { bars, nearest } = useBars();
const open = ref(false);
const chosen = ref('');
const whole = ref(new Set<number>());
const frame = ref(0);
const way = ref<StrikeWay>('blow');
const WAYS: Record<StrikeWay, string> = { blow: 'Blow', burst: 'Burst' };
const ways = STRIKES.map((value) => ({ value, label: WAYS[value] }));
const FIELDS = {
  cells: count('Pieces', BREAK_CELLS.min, BREAK_CELLS.max),
  gather: share('Clustering'),
  direction: turn('Comes from'),
  height: share('At height'),
  speed: number('Speed', 'm/s', 0, 20, { step: 0.1 }),
  bounce: share('Bounce'),
  friction: share('Friction', { max: 2 }),
  seed: count('Seed', 0, 0xffffffff),
} as const;
type Name = keyof typeof FIELDS;
const settings = reactive<Record<Name, number>>({
  ...{ cells: 30, gather: 0.5, direction: 30, height: 0.55, speed: 1.2, bounce: 0.2, friction: 0.6, seed: 1 },
});
const names = computed(() =>
  (Object.keys(FIELDS) as Name[]).filter((name) => way.value === 'blow' || name !== 'direction'),
);
const products = computed(() => campaign.set?.products.filter((p) => p.visible) ?? []);
const options = computed(() => products.value.map(({ id, name }) => ({ value: id, title: name })));
const parts = computed(() => {
  const item = products.value.find(({ id }) => id === chosen.value);
  return campaign.products.get(item?.product ?? '')?.parts.filter((part) => part.visible) ?? [];
});

useHandlers({
  'motion.shatter': {
    run: () => {
      choose((products.value.find(({ id }) => selection.all.includes(id)) ?? products.value[0]).id);
      frame.value = Math.min((campaign.shot?.length ?? 1) - 1, playhead.frame);
      open.value = true;
    },
    enabled: () => products.value.length > 0,
  },
});

const { working, run } = useShatter(() => (open.value = false));

function choose(id: string): void {
  chosen.value = id;
  whole.value = new Set();
}
function keepWhole(index: number, breaks: boolean): void {
  const next = new Set(whole.value);
  if (breaks) next.delete(index);
  else next.add(index);
  whole.value = next;
}
function strike(): void {
  run(chosen.value, {
    ...settings,
    ...{ way: way.value, frame: frame.value, whole: [...whole.value], rate: { ...campaign.rate } },
  });
}
</script>

<template>
  <DialogCard :open="open" title="Shatter" :width="520" data-test="shatter-dialog" @close="open = false">
    <div class="columns">
      <div>
        <FieldRow label="What breaks">
          <SelectField label="What breaks" :options="options" :value="chosen" @change="choose" />
        </FieldRow>
        <fieldset class="scroll">
          <legend>Parts that break</legend>
          <CheckField
            v-for="{ index, name } in parts"
            :key="index"
            :label="name"
            :value="!whole.has(index)"
            @change="(on) => keepWhole(index, on)"
          />
        </fieldset>
      </div>
      <div>
        <ToggleRow
          class="ways"
          label="How it is struck"
          :options="ways"
          :value="way"
          @change="(v) => (way = v as StrikeWay)"
        />
        <PropertyField
          v-for="name in names"
          :key="name"
          :property="FIELDS[name]"
          :value="settings[name]"
          @change="(v) => (settings[name] = v)"
        />
        <NumberField
          label="Struck at"
          unit="f"
          :step="1"
          :min="1"
          :max="campaign.shot?.length ?? 1"
          :value="frame + 1"
          @change="(v) => (frame = Math.round(v) - 1)"
        />
        <UiButton v-if="bars.length" class="bar" @click="frame = nearest(frame)">On the bar</UiButton>
      </div>
    </div>
    <p class="dim">
      The pieces become a product of the campaign and stand in place of the whole one from then on. They begin with its
      motion, so that what falls can break as it lands. Where opaque parts broke, they have a finish of their own, which
      Products can change; unticked parts stay whole and fall with the pieces.
    </p>
    <div class="row">
      <span class="spread" />
      <UiButton @click="open = false">Cancel</UiButton>
      <UiButton
        tone="primary"
        :disabled="working || parts.length === whole.size"
        data-test="shatter-run"
        @click="strike"
      >
        {{ working ? 'Working it out...' : 'Strike' }}
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
  max-height: 260px;
  margin: 8px 0 0;
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
