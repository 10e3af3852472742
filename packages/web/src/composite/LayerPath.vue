<script setup lang="ts">
import {
  cornersOf,
  homographyOf,
  inverseOf,
  maskPointsAt,
  type Homography,
  type Pinned,
  type Placed,
} from '@tender-orbit/core/composite';
import type { Layer, MaskPoint, Spot, StrokePoint } from '@tender-orbit/core/document';
import { computed, ref, watch } from 'vue';
import { useCampaign, useNotices, useRack } from '../stores/index.ts';
import { withPoints } from './mask-shapes.ts';
import FreehandPad from './FreehandPad.vue';
import PathEditor from './PathEditor.vue';

/** The drawn mask or stroke of the chosen layer over the picture. */
const { layer } = defineProps<{ layer: Layer }>();
const campaign = useCampaign();
const rack = useRack();
const notices = useNotices();

const mask = computed(() => rack.drawing === 'mask' && layer.mask === 'path');
const stroke = computed(() => (rack.drawing === 'stroke' && layer.kind === 'stroke' ? layer : null));
/** Whether a line that is drawn by hand becomes a mask, and not a stroke. */
const masks = computed(() => rack.drawing === 'freehand');
/** Takes a line that was drawn by hand, to be edited by its points. */
function takeLine(points: StrokePoint[] | null): void {
  if (!points || points.length < (masks.value ? 3 : 2)) {
    notices.refuse('That line goes nowhere: drag over the picture.');
    return;
  }
  if (masks.value) {
    const maskPath = withPoints(
      layer.maskPath,
      rack.frame,
      points.map((p) => ({ ...p, feather: 0 })),
    );
    rack.change(layer, 'Draw mask', { maskPath });
    rack.draw('mask', layer.id);
  } else {
    rack.change(layer, 'Draw stroke', { points } as Partial<Layer>);
    rack.draw('stroke', layer.id);
  }
}
const points = computed(() => maskPointsAt(layer.maskPath, rack.frame));
/** The corners of its picture as they are seen; null where it lies otherwise than flat in the picture. */
const corners = computed(() => {
  if (rack.drawing !== 'corners' || layer.inSet || layer.parent) return null;
  const to = homographyOf(values(PLACE) as Placed);
  return cornersOf(values(PINS) as Pinned, wide.value, high.value).map((at) => ({
    ...{ at: through(to, at), in: [0, 0] as Spot, out: [0, 0] as Spot },
  }));
});
const PLACE = [...['x', 'y', 'scale', 'stretch', 'rotation', 'tilt', 'turn', 'anchorX', 'anchorY', 'skew']];
const PINS = ['pinAX', 'pinAY', 'pinBX', 'pinBY', 'pinCX', 'pinCY', 'pinDX', 'pinDY'];
const values = (names: readonly string[]): object =>
  Object.fromEntries(names.map((name) => [name, rack.value(layer, name)]));
/** Height of its frame in its lengths. */
const high = computed(() => ('height' in layer && layer.kind !== 'stroke' && layer.kind !== 'logo' ? layer.height : 1));
/** Of the picture that is drawn over. */
const frameAspect = computed(() =>
  rack.host === 'promo' && campaign.promo ? campaign.promo.width / campaign.promo.height : campaign.aspect,
);
/** Its picture's width over height; of stills and films that of their file. */
const own = ref(0);
const wide = computed(() => own.value || frameAspect.value);
watch(
  () => (layer.kind === 'still' ? layer.asset : layer.kind === 'footage' ? (layer.film?.list ?? '') : ''),
  async (file) => {
    own.value = 0;
    if (!file) return;
    const first = layer.kind === 'footage' ? (await (await fetch(`/api/assets/${file}`)).text()).split('\n')[0] : file;
    const picture = new Image();
    picture.onload = () => (own.value = picture.naturalWidth / picture.naturalHeight);
    picture.src = `/api/assets/${first}`;
  },
  { immediate: true },
);
function through([a, b, c, d, e, f, g, h, i]: Homography, [x, y]: readonly [number, number]): Spot {
  const w = g * x + h * y + i;
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
}
function pin(next: ReadonlyArray<{ at: Spot }>, gesture: string): void {
  const back = inverseOf(homographyOf(values(PLACE) as Placed));
  const still = cornersOf(NO_PINS, wide.value, high.value);
  next.forEach(({ at }, i) => {
    const lain = through(back, at);
    const [x, y] = [PINS[i * 2], PINS[i * 2 + 1]];
    const to = lain.map((v, axis) => Math.round((v - still[i][axis]) * 1e4) / 1e4);
    // Only the corner that is dragged changes.
    if (Math.abs(to[0] - (rack.value(layer, x) as number)) > 1e-4) rack.setValue(layer, x, to[0], gesture);
    if (Math.abs(to[1] - (rack.value(layer, y) as number)) > 1e-4) rack.setValue(layer, y, to[1], gesture);
  });
}
const NO_PINS: Pinned = { pinAX: 0, pinAY: 0, pinBX: 0, pinBY: 0, pinCX: 0, pinCY: 0, pinDX: 0, pinDY: 0 };
const ofMask = computed(() => mask.value || masks.value);
const origin = computed((): [number, number] => [
  rack.value(layer, ofMask.value ? 'maskX' : 'x') as number,
  rack.value(layer, ofMask.value ? 'maskY' : 'y') as number,
]);
</script>

<template>
  <FreehandPad
    v-if="masks || rack.drawing === 'sketch'"
    :aspect="frameAspect"
    :closed="masks || (layer.kind === 'stroke' && layer.closed)"
    :origin="origin"
    :label="`Draw ${layer.name} by hand: drag over the picture`"
    @drawn="takeLine"
  />
  <PathEditor
    v-else-if="mask"
    :points="points"
    :aspect="frameAspect"
    :origin="origin"
    :least="3"
    closed
    :label="`Mask of ${layer.name}`"
    @change="
      (next, gesture) =>
        rack.change(
          layer,
          'Change mask',
          { maskPath: withPoints(layer.maskPath, rack.frame, next as MaskPoint[]) },
          gesture,
        )
    "
  />
  <PathEditor
    v-else-if="corners"
    :points="corners"
    :aspect="frameAspect"
    :least="4"
    closed
    straight
    :label="`Corners of ${layer.name}`"
    @change="pin"
  />
  <PathEditor
    v-else-if="stroke"
    :points="stroke.points"
    :aspect="frameAspect"
    :origin="origin"
    :least="2"
    :closed="stroke.closed"
    :label="`Stroke ${layer.name}`"
    @change="
      (next, gesture) =>
        rack.change(layer, 'Change stroke', { points: next as StrokePoint[] } as Partial<Layer>, gesture)
    "
  />
</template>
