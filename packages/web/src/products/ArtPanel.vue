<script setup lang="ts">
import { computed, ref } from 'vue';
import { addSlot, type LabelSlot, type Projection } from '@tender-orbit/core/document';
import { boundsCentre, boundsOf, boundsSize } from '@tender-orbit/core/geometry';
import { modelKey } from '@tender-orbit/core/product';
import { useDesk } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { modelOf } from '../viewer/models.ts';
import PatternMaker from './PatternMaker.vue';
import SheetPicture from './SheetPicture.vue';
import SlotFields from './SlotFields.vue';
import { useArt } from './use-art.ts';
import { FilePick, NumberField, PickCard, UiButton } from '../ui/index.ts';

const desk = useDesk();
const { busy, bring } = useArt();
const dpi = ref(300);
const picker = ref<InstanceType<typeof FilePick>>();
const making = ref(false);
const product = computed(() => desk.product!);
const part = computed(() => product.value.parts[desk.part]);
const slots = computed(() => product.value.slots.filter((s) => s.part === part.value?.index));
const others = computed(() => product.value.slots.filter((s) => s.part !== part.value?.index));

function bringChosen(files: File[]): void {
  void bring(files, { slot: slots.value.length === 1 ? slots.value[0].id : '', dpi: dpi.value });
}
/** A slot on the part in hand, as large as half of what is seen of it. */
function makeSlot(projection: Projection): void {
  const mesh = modelOf(modelKey(product.value))?.meshes[part.value.index];
  if (!mesh) return;
  const box = boundsOf([mesh]);
  const [w, h] = boundsSize(box);
  const centre = boundsCentre(box);
  // Straight from the front, or on the outermost place round the axis.
  if (projection === 'round') Object.assign(centre, { 0: 0, 2: Math.max(w, boundsSize(box)[2]) / 2 });
  const values: Partial<LabelSlot> = { projection, centre, width: w * 0.6, height: h * 0.4 };
  desk.run(addSlot(freshId('slot'), part.value, values));
}
function choosePart(slot: LabelSlot): void {
  desk.part = product.value.parts.findIndex((p) => p.index === slot.part);
}
</script>

<template>
  <section aria-label="Label art" data-test="art-panel">
    <div class="row tools">
      <UiButton tone="primary" @click="picker?.open()">Add art</UiButton>
      <FilePick
        ref="picker"
        label="Art files"
        multiple
        accept=".png,.jpg,.jpeg,.webp,.svg,.pdf,.mp4,.webm,.mov"
        data-test="art-input"
        @pick="bringChosen"
      />
      <UiButton :pressed="making" :aria-expanded="making" data-test="make-pattern" @click="making = !making">
        Make a pattern
      </UiButton>
      <span class="dpi dim">
        PDF at
        <NumberField
          class="spread"
          label="Dots per inch"
          hide-label
          unit="dpi"
          :value="dpi"
          :min="36"
          :max="1200"
          @change="(v) => (dpi = Math.round(v))"
        />
      </span>
    </div>
    <p v-if="busy" role="status" class="dim">Taking in {{ busy }}...</p>
    <PatternMaker v-if="making" />

    <h3>Slots on {{ part?.name }}</h3>
    <SlotFields v-for="slot in slots" :key="slot.id" :slot-data="slot" />
    <p v-if="slots.length === 0" class="dim">No label slot here yet.</p>
    <div class="row tools">
      <UiButton data-test="slot-uv" @click="makeSlot('uv')">UV, whole part</UiButton>
      <UiButton data-test="slot-planar" @click="makeSlot('planar')">Planar</UiButton>
      <UiButton data-test="slot-round" @click="makeSlot('round')">Cylindrical</UiButton>
    </div>

    <template v-if="others.length">
      <h3>Slots on other parts</h3>
      <PickCard v-for="slot in others" :key="slot.id" class="other" @click="choosePart(slot)">
        <SheetPicture
          v-if="product.sheets.find((s) => s.id === desk.fillOf(slot.id)?.sheet)"
          :picture="product.sheets.find((s) => s.id === desk.fillOf(slot.id)?.sheet)!.picture"
          :side="24"
        />
        <span v-else class="none" />
        <span class="clip">{{ slot.name }}</span>
      </PickCard>
    </template>

    <template v-if="product.sheets.length">
      <h3>Sheets</h3>
      <div class="sheets">
        <figure v-for="sheet in product.sheets" :key="sheet.id">
          <SheetPicture :picture="sheet.picture" :side="58" />
          <figcaption class="clip" :title="`${sheet.name}, ${sheet.width} x ${sheet.height}`">
            {{ sheet.name }}
          </figcaption>
        </figure>
      </div>
    </template>
  </section>
</template>

<style scoped>
h3 {
  margin: 12px 0 4px;
}
.tools {
  flex-wrap: wrap;
  gap: 4px;
}
.dpi {
  display: flex;
  align-items: center;
  gap: 2px;
  width: 150px;
}
.other {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  height: 30px;
  padding: 0 4px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.other:hover {
  background: var(--ink-2);
}
.none {
  width: 24px;
  height: 24px;
  border: 1px dashed var(--line);
  border-radius: 4px;
}
.sheets {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 6px;
}
figure {
  margin: 0;
  min-width: 0;
}
figcaption {
  font-size: 12px;
  color: var(--bone-dim);
}
</style>
