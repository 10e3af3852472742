<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { computed, ref } from 'vue';
import { addTexture, changeTexture, type ProductFinish } from '@tender-orbit/core/document';
import { TEXTURE_SLOTS, type TextureSlot, type TextureUse } from '@tender-orbit/core/finish';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { FilePick, IconButton, NumberField, optionsOf, SelectField, UiButton } from '../ui/index.ts';
import { pixelsOfFile, storeArt } from './art-files.ts';
import { isGrey } from './picked-colour.ts';
import { storedPicture } from './use-art.ts';

/** The textures of a finish: which picture drives what, and how it lies. */
const { productId, finish } = defineProps<{ productId: string; finish: ProductFinish }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const SLOT_NAMES: Record<TextureSlot, string> = {
  baseColor: 'Colour',
  metallicRoughness: 'Roughness and metallic',
  normal: 'Normal or bump',
  emissive: 'Emission',
  transmission: 'Transmission',
  clearcoat: 'Clearcoat',
};
const SLOTS = optionsOf(SLOT_NAMES);
const texturePicker = ref<InstanceType<typeof FilePick>>();
const used = computed(() => TEXTURE_SLOTS.filter((slot) => finish.textures[slot]));

function texture(slot: TextureSlot, label: string, values: Partial<TextureUse> | null, gesture = ''): void {
  documents.run('product', productId, changeTexture(finish.id, slot, label, values), gesture);
}
const adding = ref<TextureSlot>('baseColor');
/** A picture file as a texture; for relief it is read as a normal map, or as heights when it is grey. */
async function bringTexture(file: File): Promise<void> {
  await notices.guard(async () => {
    const colours = adding.value === 'baseColor' || adding.value === 'emissive';
    const [{ asset }] = await storeArt(campaign.id, file, { data: !colours });
    const grey = adding.value === 'normal' && isGrey(await pixelsOfFile(file, 128));
    const slot = adding.value;
    const made = { ...storedPicture(asset), emboss: grey };
    documents.run('product', productId, addTexture(finish.id, slot, made, `${SLOT_NAMES[slot]} texture`));
  });
}
</script>

<template>
  <div class="row add">
    <SelectField label="Which texture" :options="SLOTS" :value="adding" @change="(slot) => (adding = slot)" />
    <UiButton @click="texturePicker?.open()">Add texture</UiButton>
    <FilePick
      ref="texturePicker"
      label="Texture file"
      accept=".png,.jpg,.jpeg,.webp,.avif,.tif,.tiff,.svg"
      data-test="texture-input"
      @pick="([file]) => bringTexture(file)"
    />
  </div>
  <template v-for="slot in used" :key="slot">
    <div class="row">
      <strong class="spread">Texture: {{ SLOT_NAMES[slot] }}</strong>
      <IconButton
        :icon="mdiTrashCanOutline"
        :label="`Take ${SLOT_NAMES[slot]} texture off`"
        @click="texture(slot, 'Take texture off', null)"
      />
    </div>
    <NumberField
      label="Repeat"
      :value="finish.textures[slot]!.scale[0]"
      :min="0.01"
      :max="1000"
      :step="0.1"
      @change="
        (v, g) =>
          texture(
            slot,
            'Repeat texture',
            { scale: [v, v * (finish.textures[slot]!.scale[1] / finish.textures[slot]!.scale[0])] },
            g,
          )
      "
    />
    <NumberField
      label="Offset x"
      unit="%"
      :value="finish.textures[slot]!.offset[0] * 100"
      :step="1"
      @change="(v, g) => texture(slot, 'Move texture', { offset: [v / 100, finish.textures[slot]!.offset[1]] }, g)"
    />
    <NumberField
      label="Offset y"
      unit="%"
      :value="finish.textures[slot]!.offset[1] * 100"
      :step="1"
      @change="(v, g) => texture(slot, 'Move texture', { offset: [finish.textures[slot]!.offset[0], v / 100] }, g)"
    />
    <NumberField
      label="Rotation"
      unit="deg"
      :value="(finish.textures[slot]!.rotation * 180) / Math.PI"
      :step="1"
      @change="(v, g) => texture(slot, 'Turn texture', { rotation: (v * Math.PI) / 180 }, g)"
    />
    <NumberField
      v-if="slot === 'normal'"
      label="Strength"
      :value="finish.textures[slot]!.strength"
      :min="-20"
      :max="20"
      :step="0.1"
      @change="(v, g) => texture(slot, 'Change normal strength', { strength: v }, g)"
    />
  </template>
</template>

<style scoped>
.add {
  gap: 4px;
  margin: 6px 0;
}
</style>
