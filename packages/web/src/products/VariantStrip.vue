<script setup lang="ts">
import { renameVariant } from '@tender-orbit/core/document';
import { mdiTrashCanOutline } from '@mdi/js';
import { computed } from 'vue';
import IconButton from '../controls/IconButton.vue';
import { countOf } from '../controls/count-of.ts';
import ThingGlyph from '../setlist/ThingGlyph.vue';
import { useCampaign, useDesk } from '../stores/index.ts';
import { variantPicture } from './looks.ts';

/** All looks of the product side by side, each traced small; a click shows one, its name is edited in place. */
const desk = useDesk();
const campaign = useCampaign();
const SIDE = 220;
const product = computed(() => desk.product!);
/** Products that the variant in hand may be copied to. */
const others = computed(() =>
  [...campaign.products].filter(([key]) => key !== desk.id).map(([key, p]): [string, string] => [key, p.name]),
);
const summary = computed(() => {
  const { sheets, finishes, variants } = product.value;
  const used = new Set(variants.flatMap((v) => v.fills.map((f) => f.sheet)));
  return `${countOf(sheets.filter((s) => used.has(s.id)).length, 'sheet')} in use, ${countOf(finishes.length, 'finish').replace('finishs', 'finishes')}`;
});
function sheetsOf(id: string): string {
  const variant = product.value.variants.find((v) => v.id === id)!;
  const names = variant.fills.map((f) => product.value.sheets.find((s) => s.id === f.sheet)?.name).filter(Boolean);
  return names.slice(0, 2).join(', ') || 'bare';
}
</script>

<template>
  <section class="card strip" aria-label="Variants" data-test="variants">
    <div class="about">
      <h2>Variants</h2>
      <p class="dim">{{ summary }}</p>
      <v-menu v-if="others.length">
        <template #activator="{ props }">
          <button v-bind="props" type="button" class="chip" data-test="carry-variant">Copy to...</button>
        </template>
        <v-list density="compact" bg-color="surface-bright">
          <v-list-item v-for="[key, name] in others" :key="key" :title="name" @click="desk.carryTo(key)" />
        </v-list>
      </v-menu>
    </div>
    <ul class="scroll">
      <li v-for="variant in product.variants" :key="variant.id" :class="{ on: variant.id === desk.variant?.id }">
        <button
          type="button"
          class="picture"
          :aria-label="`Show ${variant.name}`"
          :aria-pressed="variant.id === desk.variant?.id"
          data-test="variant"
          @click="desk.variantId = variant.id"
        >
          <img
            v-if="variantPicture(product, variant.id, SIDE)"
            :src="variantPicture(product, variant.id, SIDE)!"
            :alt="variant.name"
            data-test="variant-picture"
          />
          <ThingGlyph v-else kind="product" />
        </button>
        <span class="row caption">
          <input
            class="name"
            :value="variant.name"
            aria-label="Name of the variant"
            maxlength="120"
            @change="desk.run(renameVariant(variant.id, ($event.target as HTMLInputElement).value))"
          />
          <IconButton
            v-if="product.variants.length > 1"
            :icon="mdiTrashCanOutline"
            :label="`Delete ${variant.name}`"
            @click="desk.removeVariant(variant.id)"
          />
        </span>
        <span class="dim clip sheets">{{ sheetsOf(variant.id) }}</span>
      </li>
      <li>
        <button type="button" class="picture new" data-test="add-variant" @click="desk.addVariant()">
          New variant
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  gap: 8px;
  padding: 10px 12px;
}
.about p {
  margin: 4px 0;
}
ul {
  display: flex;
  gap: 10px;
  margin: 0;
  padding: 2px;
  list-style: none;
}
li {
  flex: none;
  width: 116px;
}
.picture {
  display: grid;
  place-items: center;
  width: 116px;
  height: 116px;
  padding: 0;
  border: 2px solid transparent;
  border-radius: 8px;
  background: var(--surround);
  overflow: hidden;
  cursor: pointer;
}
.picture img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.on .picture {
  border-color: var(--celadon);
}
.new {
  border: 1px dashed var(--line);
  background: transparent;
  color: var(--bone-dim);
  font: inherit;
}
.caption {
  gap: 0;
  height: 26px;
}
.name {
  flex: 1;
  min-width: 0;
  padding: 2px;
  border: 0;
  border-radius: 4px;
  background: transparent;
  color: var(--bone);
  font: inherit;
}
.name:focus {
  background: var(--ink-2);
}
.sheets {
  display: block;
  font-size: 12px;
}
</style>
