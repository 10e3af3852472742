<script setup lang="ts">
import { computed } from 'vue';
import { setPart, swapTake, type Clip } from '@tender-orbit/core/document';
import { missingFrames } from '@tender-orbit/core/promo';
import { useCampaign } from '../stores/index.ts';
import ClipPicture from './ClipPicture.vue';
import ClipPace from './ClipPace.vue';
import ClipTransition from './ClipTransition.vue';
import OwnSoundFields from './OwnSoundFields.vue';
import { useCuts } from './use-cuts.ts';
import { usePromo } from './use-promo.ts';
import { FieldRow, NumberField, SelectField, UiButton } from '../ui/index.ts';

const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { promo, run, editClip, sourceOf, chosenClips } = usePromo();
const { others, open } = useCuts();
const take = computed(() => sourceOf(clip.take));
const takes = computed(() => [
  ...(take.value ? [] : [{ value: clip.take, title: 'deleted' }]),
  ...campaign.wholeTakes
    .filter((t) => t.state === 'done')
    .map((t) => ({ value: t.id, title: `${t.name} (${t.quality})` })),
  ...(promo.value?.footage ?? []).map((f) => ({ value: f.id, title: `${f.name} (footage)` })),
  ...others.value.filter((c) => !c.round && c.length > 0).map((c) => ({ value: c.id, title: `${c.name} (cut)` })),
]);
const missing = computed(() =>
  promo.value && take.value ? missingFrames(promo.value, clip.id, take.value.length) : { before: 0, after: 0 },
);
/** Whether another take is of the same shot: frames of takes are those of their shot. */
function alike(other: string): boolean {
  const [a, b] = [clip.take, other].map((id) => campaign.wholeTakes.find((t) => t.id === id));
  return a !== undefined && a.shot === b?.shot;
}
const first = computed(() => promo.value?.clips[0]?.id === clip.id);
</script>

<template>
  <h2 class="clip">{{ take?.name ?? 'Clip without a take' }}</h2>
  <p v-if="chosenClips.length > 1" class="dim">{{ chosenClips.length }} clips are chosen; fields change this one.</p>
  <p v-if="!take" role="alert" class="why">The take was deleted: choose another.</p>
  <FieldRow label="Take">
    <SelectField
      label="Take"
      :options="takes"
      :value="clip.take"
      @change="(take) => run(swapTake(clip.id, take, alike(take)))"
    />
  </FieldRow>
  <div v-if="campaign.cuts[clip.take]" class="row">
    <UiButton data-test="open-cut" @click="open(clip.take)">Open this cut</UiButton>
  </div>
  <NumberField
    label="From frame"
    unit="f"
    :value="clip.start + 1"
    :min="1"
    :max="take?.length ?? 1"
    :step="1"
    :usual="1"
    @change="(v, g) => editClip(clip.id, 'Slip clip', { start: Math.round(v) - 1 }, g)"
  />
  <NumberField
    label="Length"
    unit="f"
    :value="clip.length"
    :min="1"
    :max="100000"
    :step="1"
    @change="(v, g) => editClip(clip.id, 'Change clip length', { length: Math.round(v) }, g)"
  />
  <p v-if="missing.after > 0" class="dim">
    The take ends {{ missing.after }} {{ missing.after === 1 ? 'frame' : 'frames' }} before this clip does; its last
    frame stays till then.
  </p>
  <p v-if="missing.before > 0" class="dim">
    The transition begins {{ missing.before }} {{ missing.before === 1 ? 'frame' : 'frames' }} before the take does; its
    first frame stands till then.
  </p>
  <OwnSoundFields
    :source="clip.take"
    :sound="clip.sound"
    @change="(label, sound, g) => run(setPart(clip.id, label, 'sound', sound), g)"
  />
  <ClipTransition v-if="!first" :clip="clip" />
  <ClipPace :clip="clip" :take-length="take?.length ?? 0" />
  <ClipPicture :clip="clip" />
</template>

<style scoped>
.why {
  margin: 0;
  color: var(--coral);
}
</style>
