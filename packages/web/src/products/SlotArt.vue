<script setup lang="ts">
import { computed } from 'vue';
import { changeSlot, plainLook, type ArtLook, type LabelSlot, type SlotFill } from '@tender-orbit/core/document';
import { useDesk } from '../stores/index.ts';
import { ColourField, MoreFields, NumberField, UiButton } from '../ui/index.ts';

/** How the art lies in its slot, and what of the finish it changes. */
const { slotData: slot, fill } = defineProps<{ slotData: LabelSlot; fill: SlotFill | undefined }>();
const desk = useDesk();
const look = computed<ArtLook>(() => fill?.look ?? plainLook());

function set(label: string, values: Partial<LabelSlot>, gesture = ''): void {
  desk.run(changeSlot(slot.id, label, values), gesture);
}
function adjust(values: Partial<ArtLook>, gesture = ''): void {
  desk.fill(slot.id, { look: { ...look.value, ...values } }, 'Adjust art', gesture);
}
/** Height at which the sheet keeps its own proportion. */
function keepProportion(): void {
  const sheet = desk.product?.sheets.find((s) => s.id === fill?.sheet);
  if (sheet)
    set('Keep the art’s proportion', { height: Number(((slot.width * sheet.height) / sheet.width).toFixed(6)) });
}
</script>

<template>
  <MoreFields title="How the art lies and what it changes">
    <NumberField
      label="Repeat"
      :value="slot.repeat[0]"
      :min="0.01"
      :max="200"
      :step="0.1"
      @change="(v, g) => set('Repeat art', { repeat: [v, (slot.repeat[1] / slot.repeat[0]) * v] }, g)"
    />
    <NumberField
      label="Offset x"
      unit="%"
      :value="slot.offset[0] * 100"
      :step="1"
      @change="(v, g) => set('Move art', { offset: [v / 100, slot.offset[1]] }, g)"
    />
    <NumberField
      label="Offset y"
      unit="%"
      :value="slot.offset[1] * 100"
      :step="1"
      @change="(v, g) => set('Move art', { offset: [slot.offset[0], v / 100] }, g)"
    />
    <NumberField
      label="Rotation"
      unit="deg"
      :value="slot.rotation"
      :step="1"
      @change="(v, g) => set('Turn art', { rotation: v }, g)"
    />
    <div class="row channels">
      <UiButton :pressed="slot.colour" @click="set('Art changes colour', { colour: !slot.colour })"> colour </UiButton>
      <UiButton
        :pressed="slot.roughness >= 0"
        @click="set('Art changes roughness', { roughness: slot.roughness >= 0 ? -1 : 0.5 })"
      >
        roughness
      </UiButton>
      <UiButton
        :pressed="slot.emboss !== 0"
        data-test="emboss"
        @click="set('Art is embossed', { emboss: slot.emboss !== 0 ? 0 : 1.5 })"
      >
        emboss
      </UiButton>
      <UiButton v-if="slot.projection !== 'uv'" :disabled="!fill" @click="keepProportion"> own proportion </UiButton>
    </div>
    <NumberField
      v-if="slot.roughness >= 0"
      label="Roughness"
      unit="%"
      :value="slot.roughness * 100"
      :min="0"
      :max="100"
      @change="(v, g) => set('Roughness of art', { roughness: v / 100 }, g)"
    />
    <NumberField
      v-if="slot.emboss !== 0"
      label="Emboss"
      :value="slot.emboss"
      :min="-20"
      :max="20"
      :step="0.1"
      @change="(v, g) => set('Emboss art', { emboss: v || 0.1 }, g)"
    />
    <template v-if="fill">
      <NumberField
        label="Black point"
        unit="%"
        :value="look.black * 100"
        :min="0"
        :max="99"
        @change="(v, g) => adjust({ black: v / 100 }, g)"
      />
      <NumberField
        label="White point"
        unit="%"
        :value="look.white * 100"
        :min="1"
        :max="100"
        @change="(v, g) => adjust({ white: v / 100 }, g)"
      />
      <ColourField label="Tint" :value="look.tint" @change="(hex, g) => adjust({ tint: hex }, g)" />
      <UiButton :pressed="look.invert" @click="adjust({ invert: !look.invert })"> Invert </UiButton>
    </template>
  </MoreFields>
</template>

<style scoped>
.channels {
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0;
}
</style>
