<script setup lang="ts">
import { computed } from 'vue';
import type { Clip } from '@tender-orbit/core/document';
import { placedClips, shownAt } from '@tender-orbit/core/promo';
import { frameUrl } from '../api/index.ts';
import { useCampaign } from '../stores/index.ts';
import { percent } from '../timeline/lane.ts';
import DraggedBar from './DraggedBar.vue';
import KeyBeads from './KeyBeads.vue';
import OwnWave from './OwnWave.vue';
import type { PromoDrag } from './use-promo-drag.ts';
import { usePromo, type PromoChoice } from './use-promo.ts';
import { useRowChange } from './use-row-change.ts';

/** The clips of the cut, end to end, with pictures of what they show. */
const { span, drag } = defineProps<{ span: number; drag: PromoDrag }>();
const emit = defineEmits<{ menu: [event: MouseEvent, what: NonNullable<PromoChoice>] }>();
const campaign = useCampaign();
const { promo, chosenClips, sourceOf } = usePromo();

const { target } = useRowChange();
const clips = computed(() => (promo.value ? placedClips(promo.value) : []));
const lengthOf = (id: string): number => sourceOf(id)?.length ?? 0;
const nameOf = (id: string): string => sourceOf(id)?.name ?? 'take deleted';
function thumbs(take: string, start: number, frames: number): string[] {
  const poster = sourceOf(take)?.poster;
  if (poster) return [poster];
  const count = Math.max(1, Math.min(5, Math.round((frames / span) * 14)));
  return Array.from({ length: count }, (_, i) => start + Math.floor(((i + 0.5) / count) * frames)).flatMap(
    (at) => thumb(take, at) ?? [],
  );
}
/** A picture of a take at one of its frames, or of the take that a cut shows there. */
function thumb(id: string, at: number, within: readonly string[] = []): string | null {
  const cut = campaign.cuts[id];
  if (cut) {
    const shown = shownAt(cut, at, lengthOf)?.clip.frames[0];
    return shown && !within.includes(id) ? thumb(shown.take, shown.frame, [...within, id]) : null;
  }
  const found = campaign.takes.find((t) => t.id === id);
  if (!found || found.done.length === 0) return null;
  const want = Math.min(found.length - 1, Math.round(at));
  return frameUrl(id, found.done.includes(want) ? want : found.done[0]);
}
/** Its pace, where it is not the natural one. */
function paceOf({ pace }: Clip): string {
  if (!pace) return '';
  const [from, to] = [pace.from, pace.to].map((v) => Math.round(v * 100));
  return `, ${pace.reverse ? 'back at ' : ''}${from === to ? from : `${from} to ${to}`} %`;
}
const labelOf = (clip: Clip): string =>
  `${nameOf(clip.take)} ${clip.length} f${paceOf(clip)}, clip${clip.into ? `, comes by ${clip.into.kind}` : ''}${clip.off ? ', hidden' : ''}`;
</script>

<template>
  <div class="lane" :class="{ target: target === 'picture' }" data-row="picture">
    <DraggedBar
      v-for="{ clip, from } in clips"
      :id="clip.id"
      :key="clip.id"
      kind="clip"
      class="shot"
      :class="{ off: clip.off }"
      :label="labelOf(clip)"
      :on="chosenClips.includes(clip.id)"
      :start="from"
      :length="clip.length"
      :span="span"
      data-test="clip"
      :drag="drag"
      @menu="(event, what) => emit('menu', event, what)"
    >
      <span class="clip name"
        >{{ nameOf(clip.take) }} <span class="mono dim">{{ clip.length }} f{{ paceOf(clip) }}</span></span
      >
      <span class="thumbs"
        ><img
          v-for="(src, i) in thumbs(clip.take, clip.start, clip.length)"
          :key="i"
          :src="src"
          alt=""
          draggable="false"
      /></span>
      <i
        v-if="clip.into && from > 0"
        class="into"
        :style="{ width: percent(Math.min(clip.into.frames, clip.length) / 2, clip.length) }"
        aria-hidden="true"
      />
      <OwnWave v-if="clip.sound" :id="clip.id" :shows="clip.take" />
      <KeyBeads :thing="clip.id" :length="clip.length" />
    </DraggedBar>
    <p v-if="clips.length === 0" class="dim nothing">Press a take on the left to add it here.</p>
  </div>
</template>

<style scoped>
.lane.target {
  background: var(--celadon-deep);
}
.lane {
  position: relative;
  height: 74px;
  box-shadow: inset 0 -1px var(--ink-0);
}
.shot {
  top: 4px;
  bottom: 4px;
  padding: 2px 6px 4px;
  display: grid;
  grid-template-rows: 18px 1fr;
  background: var(--ink-2);
  border-color: #4a4359;
}
.shot.off {
  opacity: 0.45;
}
.name {
  font-size: 12px;
}
.thumbs {
  display: flex;
  gap: 3px;
  min-height: 0;
  pointer-events: none;
}
.thumbs img {
  flex: 1;
  min-width: 0;
  height: 100%;
  object-fit: cover;
  border-radius: 3px;
}
.into {
  position: absolute;
  left: 0;
  top: 20px;
  bottom: 0;
  max-width: 100%;
  background: linear-gradient(to bottom right, var(--bone) 50%, transparent 50%);
  opacity: 0.45;
  pointer-events: none;
}
.nothing {
  margin: 0;
  padding: 26px 12px;
}
</style>
