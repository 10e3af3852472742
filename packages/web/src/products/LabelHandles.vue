<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core';
import { computed, ref } from 'vue';
import { changeSlot, type LabelSlot, paintMask } from '@tender-orbit/core/document';
import { inverse, transformPoint, type Mat4 } from '@tender-orbit/core/geometry';
import { LABEL_GRIPS, labelPoint, placeLabel, pullLabel, type LabelGrip } from '@tender-orbit/core/product';
import { useDesk } from '../stores/index.ts';
import type { SurfaceSpot } from '../viewer/stage-rays.ts';
import type { StageView } from '../viewer/stage-view.ts';

/**
 * A label placed on the product itself: pressing puts its middle there, corners and sides change its size, the ring above it
 * turns it; with a brush in hand pressing paints its mask. The panel's numbers do the same from the keyboard.
 */
const {
  slotData: slot,
  view,
  matrix,
  frames,
} = defineProps<{ slotData: LabelSlot; view: StageView; matrix: Mat4; frames: number }>();
const desk = useDesk();
/** Samples along each side of the outline. */
const FINE = 12;
/** Points of a stroke lie at least this far apart, shares of the label. */
const APART = 0.004;
const surface = ref<SVGSVGElement>();
const stroke = ref<number[]>([]);
const trail = ref<Array<[number, number]>>([]);
let gripped: LabelGrip | 'middle' | 'brush' | null = null;
let gesture = '';

const screen = (a: number, b: number): [number, number] =>
  view.toScreen(transformPoint(matrix, labelPoint(slot, a, b)));
const projected = computed(() => slot.projection !== 'uv');
const outline = computed(() => {
  if (!projected.value || frames < 0) return '';
  const [w, h] = [slot.width / 2, slot.height / 2];
  const corners = [
    [-1, 1],
    [1, 1],
    [1, -1],
    [-1, -1],
  ];
  const points = corners.flatMap(([x, y], i) => {
    const [nx, ny] = corners[(i + 1) % 4];
    return Array.from({ length: FINE }, (_, k) => {
      const t = k / FINE;
      return screen((x + (nx - x) * t) * w, (y + (ny - y) * t) * h);
    });
  });
  return `M${points.map((p) => p.map((v) => v.toFixed(1)).join(' ')).join('L')}Z`;
});
/** How far above the label its ring stands. */
const stem = computed(() => 0.5 * slot.height + 0.14 * Math.max(slot.width, slot.height));
const grips = computed(() =>
  frames < 0 || !projected.value
    ? []
    : (Object.keys(LABEL_GRIPS) as LabelGrip[]).map((key) => {
        const [across, up] = LABEL_GRIPS[key];
        const [x, y] =
          key === 'turn' ? screen(0, stem.value) : screen((across * slot.width) / 2, (up * slot.height) / 2);
        return { key, x, y };
      }),
);
const ring = computed(() => grips.value.find((g) => g.key === 'turn'));
const top = computed(() => grips.value.find((g) => g.key === 'n'));

/** What lies under the pointer in the model's own space: on the product, or beside it in the label's plane. */
function under(event: PointerEvent): { point: [number, number, number]; spot: SurfaceSpot | null } | null {
  const spot = view.spotAt(event.clientX, event.clientY);
  const middle = transformPoint(matrix, labelPoint(slot, 0, 0));
  const ahead = (slot.turn * Math.PI) / 180;
  const way = along([Math.sin(ahead), 0, Math.cos(ahead)], matrix);
  const at = spot?.point ?? view.onPlane(event.clientX, event.clientY, middle, way);
  return at ? { point: transformPoint(inverse(matrix), [...at] as [number, number, number]), spot } : null;
}
function along(direction: [number, number, number], by: Mat4): number[] {
  const from = transformPoint(by, [0, 0, 0]);
  return transformPoint(by, direction).map((v, a) => v - from[a]);
}

function press(event: PointerEvent, grip: LabelGrip | null): void {
  if (event.button !== 0) return;
  event.preventDefault();
  gripped = grip ?? (desk.brush ? 'brush' : projected.value ? 'middle' : null);
  gesture = `label-${Date.now()}`;
  surface.value?.setPointerCapture(event.pointerId);
  pull(event);
}
function pull(event: PointerEvent): void {
  if (!gripped) return;
  if (gripped === 'brush') {
    paint(event);
    return;
  }
  const found = under(event);
  if (!found) return;
  const { point, spot } = found;
  if (gripped !== 'middle')
    desk.run(changeSlot(slot.id, 'Shape label', pullLabel(slot, gripped, point, event.shiftKey)), gesture);
  else if (spot) {
    const normal = along([...spot.normal] as [number, number, number], inverse(matrix));
    desk.run(changeSlot(slot.id, `Place ${slot.name}`, placeLabel(slot.projection, point, normal)), gesture);
  }
}
/** Notes where the brush goes on the label. */
function paint(event: PointerEvent): void {
  // A label on glass may lie under another part that the viewer lets it shine through.
  const own = (of: { part?: number; slot?: string }): boolean =>
    projected.value ? of.slot === slot.id : of.part === slot.part && !of.slot;
  const spot = view.spotAt(event.clientX, event.clientY, own);
  if (!spot) return;
  const [u, v] = spot.uv;
  const last = stroke.value.slice(-2);
  if (last.length > 0 && Math.hypot(u - last[0], v - last[1]) < APART) return;
  stroke.value.push(Number(u.toFixed(4)), Number(v.toFixed(4)));
  const box = surface.value!.getBoundingClientRect();
  trail.value.push([event.clientX - box.left, event.clientY - box.top]);
}
function release(): void {
  if (gripped === 'brush' && stroke.value.length > 0) {
    const made = { hide: desk.brush === 'hide', radius: desk.brushWidth / 2, points: stroke.value.slice(0, 4000) };
    desk.run(paintMask(slot.id, made));
  }
  gripped = null;
  stroke.value = [];
  trail.value = [];
}
/** The brush's width on the screen. */
const brushPixels = computed(() => {
  if (frames < 0 || !projected.value) return 18;
  const [a, b] = [screen(-slot.width / 2, 0), screen(slot.width / 2, 0)];
  return Math.max(3, Math.hypot(b[0] - a[0], b[1] - a[1]) * desk.brushWidth);
});
onKeyStroke('Escape', () => (desk.placing = ''));
</script>

<template>
  <svg
    ref="surface"
    class="handles"
    :class="{ painting: desk.brush }"
    data-test="label-handles"
    aria-hidden="true"
    @pointerdown="press($event, null)"
    @pointermove="pull"
    @pointerup="release"
    @pointercancel="release"
  >
    <path class="edge" :d="outline" />
    <polyline
      v-if="trail.length"
      class="trail"
      :points="trail.map((p) => p.join(',')).join(' ')"
      :stroke-width="brushPixels"
    />
    <template v-if="!desk.brush">
      <line v-if="ring && top" class="edge" :x1="top.x" :y1="top.y" :x2="ring.x" :y2="ring.y" />
      <circle
        v-for="grip in grips"
        :key="grip.key"
        class="grip"
        :class="grip.key"
        :cx="grip.x"
        :cy="grip.y"
        :r="grip.key === 'turn' ? 7 : 5"
        :data-test="`grip-${grip.key}`"
        @pointerdown.stop="press($event, grip.key)"
      />
    </template>
  </svg>
</template>

<style scoped>
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
  cursor: move;
}
.painting {
  cursor: crosshair;
}
.edge {
  fill: none;
  stroke: var(--celadon);
  stroke-width: 1.5;
}
.grip {
  fill: var(--ink-0);
  stroke: var(--celadon);
  stroke-width: 2;
  cursor: nwse-resize;
}
.grip.n,
.grip.s {
  cursor: ns-resize;
}
.grip.e,
.grip.w {
  cursor: ew-resize;
}
.grip.turn {
  fill: none;
  stroke-width: 3;
  pointer-events: all;
  cursor: grab;
}
.trail {
  fill: none;
  stroke: var(--celadon);
  stroke-opacity: 0.45;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
