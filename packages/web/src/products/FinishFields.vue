<script setup lang="ts">
import { addTexture, changeFinish, changeTexture, type ProductFinish } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import {
  hexToLinear,
  linearToHex,
  TEXTURE_SLOTS,
  type Finish,
  type TextureSlot,
  type TextureUse,
} from '@tender-orbit/core/finish';
import { mdiImageOutline, mdiTrashCanOutline } from '@mdi/js';
import { useDocuments, useNotices } from '../stores/index.ts';
import { uploadFile } from '../api/index.ts';
import { artOf, pixelsOfFile } from './art-files.ts';
import { colourOf, isGrey } from './picked-colour.ts';
import { storedPicture } from './use-art.ts';
import {
  ColourField,
  FilePick,
  IconButton,
  MoreFields,
  NumberField,
  PickCard,
  SelectField,
  TextField,
  UiButton,
  optionsOf,
} from '../ui/index.ts';

const { productId, finish } = defineProps<{ productId: string; finish: ProductFinish }>();
const documents = useDocuments();
const notices = useNotices();
const picture = ref<{ url: string; pixels: ImageData } | null>(null);

type Amount =
  | 'roughness'
  | 'metallic'
  | 'transmission'
  | 'clearcoat'
  | 'clearcoatRoughness'
  | 'specular'
  | 'sheenRoughness'
  | 'iridescence'
  | 'anisotropy'
  | 'alpha';
const FIRST: Array<[Amount, string]> = [
  ['roughness', 'Roughness'],
  ['metallic', 'Metallic'],
  ['transmission', 'Transmission'],
  ['clearcoat', 'Clearcoat'],
];
const MORE: Array<[Amount, string]> = [
  ['clearcoatRoughness', 'Coat roughness'],
  ['specular', 'Specular'],
  ['sheenRoughness', 'Sheen roughness'],
  ['iridescence', 'Iridescence'],
  ['anisotropy', 'Anisotropy'],
  ['alpha', 'Opacity'],
];
const SLOT_NAMES: Record<TextureSlot, string> = {
  baseColor: 'Colour',
  metallicRoughness: 'Roughness and metallic',
  normal: 'Normal or bump',
  emissive: 'Emission',
  transmission: 'Transmission',
  clearcoat: 'Clearcoat',
};
const SLOTS = optionsOf(SLOT_NAMES);
const colourPicker = ref<InstanceType<typeof FilePick>>();
const texturePicker = ref<InstanceType<typeof FilePick>>();
const used = computed(() => TEXTURE_SLOTS.filter((slot) => finish.textures[slot]));

function set(label: string, values: Partial<Finish>, gesture = ''): void {
  documents.run('product', productId, changeFinish(finish.id, label, values), gesture);
}
function colour(key: 'baseColor' | 'attenuationColor' | 'sheenColor' | 'emissive', label: string) {
  return (hex: string, gesture: string): void => {
    const linear = hexToLinear(hex);
    if (linear) set(label, { [key]: linear }, gesture);
  };
}
function texture(slot: TextureSlot, label: string, values: Partial<TextureUse> | null, gesture = ''): void {
  documents.run('product', productId, changeTexture(finish.id, slot, label, values), gesture);
}
function rename(text: string): void {
  const name = text.trim();
  if (name) set('Rename finish', { name: name.slice(0, 200) });
}
async function openPicture(file: File): Promise<void> {
  await notices.guard(async () => {
    picture.value = { url: URL.createObjectURL(file), pixels: await pixelsOfFile(file, 600) };
  });
}
function pick(event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const { pixels } = picture.value!;
  const hex = colourOf(pixels, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  set('Pick finish colour', { baseColor: hexToLinear(hex)! });
}
const mm = (metres: number): number => metres * 1000;
const adding = ref<TextureSlot>('baseColor');
/** A picture file as a texture; for relief it is read as a normal map, or as heights when it is grey. */
async function bringTexture(file: File): Promise<void> {
  await notices.guard(async () => {
    const [page] = await artOf(file, 300);
    const { hash } = await uploadFile(page.file, () => undefined);
    const grey = adding.value === 'normal' && isGrey(await pixelsOfFile(file, 128));
    const slot = adding.value;
    const made = { ...storedPicture(hash), emboss: grey };
    documents.run('product', productId, addTexture(finish.id, slot, made, `${SLOT_NAMES[slot]} texture`));
  });
}
</script>

<template>
  <div class="fields">
    <TextField :value="finish.name" label="Name of the finish" maxlength="200" @change="rename" />
    <div class="row colour">
      <ColourField
        class="spread"
        label="Colour"
        :value="linearToHex(finish.baseColor)"
        @change="colour('baseColor', 'Change finish colour')"
      />
      <IconButton :icon="mdiImageOutline" label="Pick the colour from a picture" @click="colourPicker?.open()" />
      <FilePick
        ref="colourPicker"
        label="Picture to pick the colour from"
        accept="image/*"
        data-test="colour-picture"
        @pick="([file]) => openPicture(file)"
      />
    </div>
    <PickCard v-if="picture" class="picture" label="Click the colour in the picture" @click="pick">
      <img :src="picture.url" alt="" />
    </PickCard>
    <NumberField
      v-for="[key, label] in FIRST"
      :key="key"
      :label="label"
      unit="%"
      :value="finish[key] * 100"
      :min="0"
      :max="100"
      :step="1"
      @change="(v, g) => set(`Change ${label.toLowerCase()}`, { [key]: v / 100 }, g)"
    />
    <NumberField
      v-if="finish.transmission > 0 || finish.metallic < 1"
      label="IOR"
      :value="finish.ior"
      :min="1"
      :max="4"
      :step="0.01"
      :usual="1.5"
      @change="(v, g) => set('Change index of refraction', { ior: v }, g)"
    />
    <template v-if="finish.transmission > 0">
      <NumberField
        label="Thickness"
        unit="mm"
        :value="mm(finish.thickness)"
        :min="0"
        :max="1000"
        :step="0.1"
        @change="(v, g) => set('Change thickness', { thickness: v / 1000 }, g)"
      />
      <ColourField
        label="Attenuation"
        :value="linearToHex(finish.attenuationColor)"
        @change="colour('attenuationColor', 'Change attenuation colour')"
      />
      <NumberField
        label="at distance"
        unit="mm"
        :value="mm(finish.attenuationDistance)"
        :min="0"
        :max="10000"
        :step="1"
        @change="(v, g) => set('Change attenuation distance', { attenuationDistance: v / 1000 }, g)"
      />
    </template>
    <MoreFields title="More">
      <NumberField
        v-for="[key, label] in MORE"
        :key="key"
        :label="label"
        unit="%"
        :value="finish[key] * 100"
        :min="0"
        :max="100"
        :step="1"
        @change="(v, g) => set(`Change ${label.toLowerCase()}`, { [key]: v / 100 }, g)"
      />
      <ColourField
        label="Sheen colour"
        :value="linearToHex(finish.sheenColor)"
        @change="colour('sheenColor', 'Change sheen')"
      />
      <ColourField
        label="Emission"
        :value="linearToHex(finish.emissive)"
        @change="colour('emissive', 'Change emission')"
      />
      <NumberField
        label="Emission power"
        unit="cd"
        :value="finish.emissiveStrength"
        :min="0"
        :max="100000"
        :step="10"
        @change="(v, g) => set('Change emission', { emissiveStrength: v }, g)"
      />
    </MoreFields>
    <div class="row add">
      <SelectField label="Which texture" :options="SLOTS" :value="adding" @change="(slot) => (adding = slot)" />
      <UiButton @click="texturePicker?.open()">Add texture</UiButton>
      <FilePick
        ref="texturePicker"
        label="Texture file"
        accept=".png,.jpg,.jpeg,.webp,.svg"
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
  </div>
</template>

<style scoped>
.fields {
  margin-top: 8px;
}
.add {
  gap: 4px;
  margin: 6px 0;
}
.colour {
  gap: 2px;
}
.pick {
  display: grid;
  place-items: center;
  width: 28px;
  height: 28px;
  border-radius: 6px;
  cursor: pointer;
}
.pick:hover,
.pick:focus-within {
  background: var(--ink-2);
}
.picture {
  display: block;
  width: 100%;
  padding: 0;
  border: 0;
  background: none;
  cursor: crosshair;
}
.picture img {
  display: block;
  width: 100%;
  border-radius: 6px;
}
summary {
  margin: 4px 0;
  color: var(--bone-dim);
  cursor: pointer;
}
</style>
