<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import {
  addRoomBox,
  changeRoomBox,
  deleteRoomBox,
  propertyOf,
  type DrawnBox,
  type Room,
} from '@tender-orbit/core/document';
import { linearToSrgb } from '@tender-orbit/core/finish';
import { acrossOf, azimuthOf, panoramaOf } from '@tender-orbit/core/light';
import PropertyField from '../../controls/PropertyField.vue';
import { useCampaign, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import { panoramaFile } from '../../viewer/models.ts';
import { UiButton } from '../../ui/index.ts';

/** The room laid flat; in a drawn one softboxes are put down, dragged and sized. */
const { room } = defineProps<{ room: Room }>();
const campaign = useCampaign();
const stage = useStage();
const canvas = ref<HTMLCanvasElement>();
const chosen = ref('');
const [WIDTH, HEIGHT] = [280, 140];
const panorama = computed(() => panoramaOf(room, room.asset ? panoramaFile(room.asset) : undefined));
const drawn = computed(() => room.kind === 'drawn');
const box = computed(() => room.boxes.find((b) => b.id === chosen.value));

function draw(): void {
  const context = canvas.value?.getContext('2d');
  if (!context) return;
  const image = context.createImageData(WIDTH, HEIGHT);
  const { width, height, data } = panorama.value;
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const from = (Math.floor((y / HEIGHT) * height) * width + Math.floor((x / WIDTH) * width)) * 3;
      for (let c = 0; c < 3; c++) {
        const v = data[from + c] * 0.45;
        image.data[(y * WIDTH + x) * 4 + c] = 255 * linearToSrgb(v / (1 + v * 0.6));
      }
      image.data[(y * WIDTH + x) * 4 + 3] = 255;
    }
  context.putImageData(image, 0, 0);
}
onMounted(draw);
watch(panorama, draw);

let drag = '';
function placeOf(event: PointerEvent): { azimuth: number; elevation: number } {
  const r = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const [u, v] = [(event.clientX - r.left) / r.width, (event.clientY - r.top) / r.height];
  return { azimuth: Math.round(azimuthOf(u)), elevation: Math.round(90 - Math.min(1, Math.max(0, v)) * 180) };
}
function edit(id: string, values: Partial<DrawnBox>, label: string, gesture = ''): void {
  stage.run(changeRoomBox(id, label, values), gesture);
}
function onDown(event: PointerEvent): void {
  if (!drawn.value) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  drag = `room-${Date.now()}`;
  const at = placeOf(event);
  const hit = [...room.boxes].reverse().find((b) => {
    const round = Math.abs(((at.azimuth - b.azimuth + 540) % 360) - 180);
    return round <= b.width / 2 && Math.abs(at.elevation - b.elevation) <= b.height / 2;
  });
  if (hit) chosen.value = hit.id;
  else add(at, drag);
}
/** A new softbox at a place, which is chosen. */
function add(at: { azimuth: number; elevation: number }, gesture = ''): void {
  const made: DrawnBox = {
    ...{ id: freshId('box'), ...at },
    ...{ width: 40, height: 30, brightness: 12, kelvin: 5600, softness: 0.2 },
  };
  chosen.value = made.id;
  stage.run(addRoomBox(made), gesture);
}
/** Arrows move a softbox, finely with Shift; Enter chooses it, Delete takes it away. */
function onKey(event: KeyboardEvent, { id, azimuth, elevation }: DrawnBox): void {
  const by = event.shiftKey ? 1 : 5;
  const [round, up] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[
    event.key
  ] ?? [0, 0];
  if (round === 0 && up === 0 && !['Enter', ' ', 'Delete'].includes(event.key)) return;
  event.preventDefault();
  event.stopPropagation();
  chosen.value = id;
  if (event.key === 'Delete') remove();
  else if (round !== 0 || up !== 0) {
    const turned = ((azimuth + round + 540) % 360) - 180;
    edit(
      id,
      { azimuth: turned, elevation: Math.min(90, Math.max(-90, elevation + up)) },
      'Move softbox',
      `room-keys-${id}`,
    );
  }
}
function onMove(event: PointerEvent): void {
  if (drag && chosen.value) edit(chosen.value, placeOf(event), 'Move softbox', drag);
}
function remove(): void {
  stage.run(deleteRoomBox(chosen.value));
  chosen.value = '';
}
/** A drawn softbox's outline, in shares of the picture. */
function outline(b: DrawnBox): Record<string, string> {
  return {
    left: `${(acrossOf(b.azimuth) - b.width / 720) * 100}%`,
    top: `${((90 - b.elevation - b.height / 2) / 180) * 100}%`,
    width: `${(b.width / 360) * 100}%`,
    height: `${(b.height / 180) * 100}%`,
  };
}
/** The heading of each field; of which thing it is, is plain here. */
const LABELS = { width: 'Width', height: 'Height', brightness: 'Brightness', kelvin: 'Colour', softness: 'Soft edge' };
const KEYS = Object.keys(LABELS) as Array<keyof typeof LABELS>;
const fields = computed(() => {
  const thing = campaign.set?.environment;
  return KEYS.flatMap((key) => {
    const property = thing && propertyOf({ role: 'environment', thing }, `room.boxes.${chosen.value}.${key}`);
    return property?.type === 'number' ? [{ key, property }] : [];
  });
});
</script>

<template>
  <div
    class="flat"
    :class="{ drawn }"
    data-test="room-picture"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="drag = ''"
    @pointercancel="drag = ''"
  >
    <canvas
      ref="canvas"
      :width="WIDTH"
      :height="HEIGHT"
      role="img"
      aria-label="The room laid flat: its middle is behind the product"
    />
    <template v-if="drawn">
      <span
        v-for="(b, i) in room.boxes"
        :key="b.id"
        class="outline"
        :class="{ on: b.id === chosen }"
        :style="outline(b)"
        tabindex="0"
        role="button"
        :aria-label="`Softbox ${i + 1} of the room, ${b.azimuth} deg round, ${b.elevation} up: arrows move it`"
        :aria-pressed="b.id === chosen"
        @keydown="onKey($event, b)"
      />
    </template>
  </div>
  <p v-if="drawn && room.boxes.length === 0" class="dim hint">Press where a softbox should shine from.</p>
  <UiButton v-if="drawn" class="remove" @click="add({ azimuth: 0, elevation: 30 })">Add softbox</UiButton>
  <template v-if="drawn && box">
    <PropertyField
      v-for="{ key, property } in fields"
      :key="key"
      :label="LABELS[key]"
      :property="property"
      :value="box[key]"
      @change="(value, gesture) => edit(box!.id, { [key]: value }, 'Change softbox', gesture)"
    />
    <UiButton class="remove" @click="remove">Delete softbox</UiButton>
  </template>
</template>

<style scoped>
.flat {
  position: relative;
  border-radius: 6px;
  overflow: hidden;
  touch-action: none;
}
.flat.drawn {
  cursor: crosshair;
}
canvas {
  display: block;
  width: 100%;
}
.outline {
  position: absolute;
  border: 1px dashed var(--bone-dim);
  border-radius: 3px;
  pointer-events: none;
}
.outline.on {
  border: 2px solid var(--celadon);
}
.hint {
  margin: 0;
}
.remove {
  justify-self: start;
}
</style>
