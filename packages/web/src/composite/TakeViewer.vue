<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { shortTimecode } from '@tender-orbit/core/time';
import { frameUrl, layersUrl, type TakeSummary } from '../api/index.ts';
import { useCampaign, usePlayhead } from '../stores/index.ts';
import ShotSwitch from '../viewer/ShotSwitch.vue';
import PartFrame from './PartFrame.vue';
import type { Part } from './region.ts';
import WipeOver from './WipeOver.vue';
import { SelectField, ToggleRow, UiButton } from '../ui/index.ts';

const { take } = defineProps<{ take: TakeSummary | undefined }>();
/** The part that the next take renders; null is the whole picture. */
const part = defineModel<Part | null>('part', { required: true });
const campaign = useCampaign();
const playhead = usePlayhead();

/** The frame itself when it is there, else the nearest one that is. */
const shown = computed(() => {
  if (!take || take.done.length === 0) return null;
  return take.done.reduce(
    (best, f) => (Math.abs(f - playhead.frame) < Math.abs(best - playhead.frame) ? f : best),
    take.done[0],
  );
});
/** The take that it is compared with, and how. */
const compared = ref('');
const way = ref<'wipe' | 'difference'>('wipe');
const WAYS = [
  { value: 'wipe', label: 'Wipe' },
  { value: 'difference', label: 'Difference' },
] as const;
const others = computed(() => [
  { value: '', title: 'Compare with...' },
  ...campaign.shotTakes.filter(({ id }) => id !== take?.id).map(({ id, name }) => ({ value: id, title: name })),
]);
const other = computed(() => campaign.shotTakes.find(({ id }) => id === compared.value && id !== take?.id));
watch(
  () => take?.id,
  () => (compared.value = ''),
);
const done = computed(() => new Set(take?.done ?? []));
</script>

<template>
  <section class="viewer" aria-label="Take" data-test="take-viewer">
    <div class="row head">
      <ShotSwitch />
      <span v-if="take" class="clip dim">{{ take.name }}</span>
      <span class="spread" />
      <template v-if="others.length > 1">
        <ToggleRow v-if="other" label="Compared by" :options="[...WAYS]" :value="way" @change="(v) => (way = v)" />
        <SelectField
          class="with"
          label="Compare with"
          :options="others"
          :value="compared"
          data-test="compare-with"
          @change="(id) => (compared = id)"
        />
      </template>
      <slot />
      <UiButton
        v-if="take?.passes && shown !== null"
        :href="layersUrl(take.id, shown)"
        download
        tip="All passes of this frame as one OpenEXR file"
        data-test="layers"
        >Layers</UiButton
      >
      <span v-if="take && shown !== null" class="chip still mono">frame {{ shown + 1 }} of {{ take.length }}</span>
    </div>
    <div class="surround">
      <img
        v-if="take && shown !== null"
        :src="frameUrl(take.id, shown)"
        :alt="`Frame ${shown + 1} of ${take.name}`"
        data-test="take-frame"
      />
      <WipeOver
        v-if="other && shown !== null && other.done.includes(shown)"
        :src="frameUrl(other.id, shown)"
        :alt="other.name"
        :difference="way === 'difference'"
      />
      <span v-else-if="other && shown !== null" class="chip still note"
        >"{{ other.name }}" has no frame {{ shown + 1 }}</span
      >
      <p v-if="take && shown === null" class="dim">The first frame is being traced...</p>
      <p v-if="!take" class="dim">Start a take to see it here.</p>
      <PartFrame v-if="part" v-model="part" :aspect="campaign.aspect" />
      <span v-if="take && shown !== null && shown !== playhead.frame" class="chip still note"
        >Frame {{ playhead.frame + 1 }} is not rendered yet; this is frame {{ shown + 1 }}</span
      >
    </div>
    <div v-if="take" class="strip" role="group" aria-label="Finished frames">
      <button
        v-for="n in take.length"
        :key="n"
        type="button"
        :class="{ done: done.has(n - 1), here: n - 1 === playhead.frame }"
        :title="`${shortTimecode(n - 1, campaign.rate)}${done.has(n - 1) ? '' : ', waiting'}`"
        :aria-label="`Frame ${n}`"
        tabindex="-1"
        @click="playhead.seek(n - 1, take.length)"
      />
    </div>
  </section>
</template>

<style scoped>
.viewer {
  grid-template-rows: 38px 1fr auto;
}
.surround {
  padding: 12px;
}
img {
  width: 100%;
  height: 100%;
  min-height: 0;
  object-fit: contain;
  position: absolute;
  inset: 0;
}
.with {
  width: 150px;
}
.note {
  position: absolute;
  bottom: 10px;
  left: 10px;
  background: var(--ink-1);
}
.strip {
  display: flex;
  gap: 1px;
  height: 10px;
}
.strip button {
  flex: 1;
  min-width: 0;
  padding: 0;
  border: 0;
  background: var(--line);
  cursor: pointer;
}
.strip .done {
  background: var(--honey);
}
.strip .here {
  background: var(--coral);
}
</style>
