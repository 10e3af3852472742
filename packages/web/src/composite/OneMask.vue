<script setup lang="ts">
import type { Layer } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useCampaign, useRack } from '../stores/index.ts';
import { FieldRow, SelectField, UiButton, type SelectOption } from '../ui/index.ts';
import { dropShape, keyShape, plainShape } from './mask-shapes.ts';
import LayerFields from './LayerFields.vue';

/** A mask of a layer, or one of its further masks: its form, and how it is drawn over the picture. */
const { layer, things } = defineProps<{
  layer: Layer;
  things: ReadonlyArray<SelectOption<string>>;
}>();
const rack = useRack();
const campaign = useCampaign();

const names = computed(() => {
  if (layer.mask === 'none') return ['mask'];
  if (layer.mask === 'thing' || layer.mask === 'finish') return ['mask', 'maskInverted'];
  const sized = layer.mask === 'path' ? [] : ['maskWidth', 'maskHeight'];
  return ['mask', 'maskX', 'maskY', ...sized, 'maskRotation', 'feather', 'maskGrow', 'maskInverted'];
});
/** Finishes of the set, and what it is masked by now, in case that is no longer there. */
const finishes = computed(() => {
  const { products = [], surfaces = [] } = campaign.set ?? {};
  const all = products.flatMap(({ product }) => campaign.products.get(product)?.finishes ?? []);
  const own = [...all, ...surfaces.flatMap(({ finish }) => finish ?? [])].map(({ name }) => name);
  const names = [...new Set([...own, ...(layer.maskFinish ? [layer.maskFinish] : [])])].sort((a, b) =>
    a.localeCompare(b, 'en'),
  );
  return [{ value: '', title: 'Choose a finish' }, ...names.map((name) => ({ value: name, title: name }))];
});
const set = (values: Partial<Layer>, label: string): void => rack.change(layer, label, values);
const isKey = computed(() => layer.maskPath.length > 1 && layer.maskPath.some((s) => s.frame === rack.frame));
const drawing = computed(() => (rack.drawnOn?.id === layer.id ? rack.drawing : ''));

function draw(): void {
  if (layer.maskPath.length === 0) set({ maskPath: [plainShape(rack.frame)] }, 'Draw mask');
  rack.draw('mask', layer.id);
}
</script>

<template>
  <LayerFields :layer="layer" :names="names" />
  <FieldRow v-if="layer.mask === 'finish'" label="Finish">
    <SelectField
      label="Finish"
      :options="finishes"
      :value="layer.maskFinish ?? ''"
      @change="(maskFinish) => set({ maskFinish }, 'Choose finish of the mask')"
    />
  </FieldRow>
  <p v-if="layer.mask === 'finish'" class="dim note">
    Takes from before finishes were kept show none: render them again.
  </p>
  <FieldRow
    v-if="layer.mask !== 'none' && layer.mask !== 'finish' && rack.host === 'shot'"
    :label="layer.mask === 'thing' ? 'Thing' : 'Goes with'"
  >
    <SelectField
      :label="layer.mask === 'thing' ? 'Thing' : 'Mask goes with'"
      :options="[{ value: '', title: layer.mask === 'thing' ? 'Choose a thing' : 'Nothing' }, ...things]"
      :value="layer.maskThing"
      @change="(maskThing) => set({ maskThing }, 'Choose thing of the mask')"
    />
  </FieldRow>
  <div v-if="layer.mask === 'path'" class="row shapes">
    <UiButton :pressed="drawing === 'mask'" data-test="draw-mask" @click="draw">{{
      layer.maskPath.length === 0 ? 'Draw by points' : 'Edit the points'
    }}</UiButton>
    <UiButton
      :pressed="drawing === 'freehand'"
      tip="Drag over the picture along the edge"
      data-test="draw-freehand"
      @click="rack.draw('freehand', layer.id)"
      >Draw freehand</UiButton
    >
    <UiButton
      v-if="layer.maskPath.length > 0"
      :tip="
        isKey
          ? 'Takes the shape at this frame away'
          : 'Keeps the shape as it is at this frame, to change it from here on'
      "
      data-test="key-mask"
      @click="
        isKey
          ? set({ maskPath: dropShape(layer.maskPath, rack.frame) }, 'Delete shape of the mask')
          : set({ maskPath: keyShape(layer.maskPath, rack.frame) }, 'Key shape of the mask')
      "
      >{{ isKey ? 'Delete shape' : 'Key shape' }}</UiButton
    >
    <span v-if="layer.maskPath.length > 1" class="dim">{{ layer.maskPath.length }} shapes</span>
  </div>
</template>

<style scoped>
.shapes {
  flex-wrap: wrap;
  gap: 6px;
  padding: 4px 0 6px 20px;
}
.note {
  margin: 0;
  padding-left: 20px;
}
</style>
