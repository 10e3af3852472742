<script setup lang="ts">
/** A dot of the plan that is dragged, or moved by arrow keys; what it is put to is across and forward, metres. */
const {
  x,
  z,
  scale,
  name,
  size = 3.6,
  square = false,
} = defineProps<{
  x: number;
  z: number;
  /** Drawing units a metre. */
  scale: number;
  name: string;
  /** Half its width, drawing units. */
  size?: number;
  square?: boolean;
}>();
const emit = defineEmits<{ put: [x: number, z: number, gesture: string] }>();
/** Metres that an arrow key moves it by. */
const STEP: Record<string, readonly [number, number]> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, -0.01],
  ArrowDown: [0, 0.01],
};
let gesture = '';
function take(event: PointerEvent): void {
  if (event.button !== 0) return;
  event.stopPropagation();
  gesture = `dot-${Date.now()}`;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (!gesture || event.buttons !== 1) return;
  const dot = event.currentTarget as SVGGraphicsElement;
  const toDrawing = dot.ownerSVGElement!.getScreenCTM()!.inverse();
  const to = new DOMPoint(event.clientX, event.clientY).matrixTransform(toDrawing);
  emit('put', to.x / scale, to.y / scale, gesture);
}
function nudge(event: KeyboardEvent): void {
  const by = STEP[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  emit('put', x + by[0], z + by[1], '');
}
</script>

<template>
  <rect
    class="dot"
    :x="x * scale - size"
    :y="z * scale - size"
    :width="size * 2"
    :height="size * 2"
    :rx="square ? size / 2 : size"
    tabindex="0"
    role="button"
    :aria-label="`${name}: arrow keys move it`"
    @pointerdown="take"
    @pointermove="move"
    @pointerup="gesture = ''"
    @keydown="nudge"
  />
</template>

<style scoped>
.dot {
  fill: var(--ink-0);
  stroke: var(--coral);
  stroke-width: 1.5;
  cursor: grab;
}
.dot.here {
  fill: var(--coral);
}
</style>
