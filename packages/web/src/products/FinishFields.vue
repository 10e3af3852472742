<script setup lang="ts">
import { shortened } from '@tender-orbit/core/text';
import { changeFinish, type ProductFinish } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { hexToLinear, linearToHex, type Finish } from '@tender-orbit/core/finish';
import { mdiImageOutline } from '@mdi/js';
import { useDocuments, useNotices } from '../stores/index.ts';
import { pixelsOfFile } from './art-files.ts';
import { colourOf } from './picked-colour.ts';
import TextureFields from './TextureFields.vue';
import { ColourField, FilePick, IconButton, MoreFields, NumberField, PickCard, TextField } from '../ui/index.ts';

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
const colourPicker = ref<InstanceType<typeof FilePick>>();

function set(label: string, values: Partial<Finish>, gesture = ''): void {
  documents.run('product', productId, changeFinish(finish.id, label, values), gesture);
}
type Tinted = 'baseColor' | 'attenuationColor' | 'sheenColor' | 'emissive';
function colour(key: Tinted, label: string, hex: string, gesture: string): void {
  const linear = hexToLinear(hex);
  if (linear) set(label, { [key]: linear }, gesture);
}
function rename(text: string): void {
  const name = text.trim();
  if (name) set('Rename finish', { name: shortened(name, 200) });
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
</script>

<template>
  <div class="fields">
    <TextField :value="finish.name" label="Name of the finish" maxlength="200" @change="rename" />
    <div class="row colour">
      <ColourField
        class="spread"
        label="Colour"
        :value="linearToHex(finish.baseColor)"
        @change="(hex, gesture) => colour('baseColor', 'Change finish colour', hex, gesture)"
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
        @change="(hex, gesture) => colour('attenuationColor', 'Change attenuation colour', hex, gesture)"
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
        @change="(hex, gesture) => colour('sheenColor', 'Change sheen', hex, gesture)"
      />
      <ColourField
        label="Emission"
        :value="linearToHex(finish.emissive)"
        @change="(hex, gesture) => colour('emissive', 'Change emission', hex, gesture)"
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
    <TextureFields :product-id="productId" :finish="finish" />
  </div>
</template>

<style scoped>
.fields {
  margin-top: 8px;
}
.colour {
  gap: 2px;
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
</style>
