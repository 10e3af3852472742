<script setup lang="ts">
import { renameVariant } from '@tender-orbit/core/document';
import { mdiTrashCanOutline } from '@mdi/js';
import { computed } from 'vue';
import { countOf } from '../controls/count-of.ts';
import ThingGlyph from '../things/ThingGlyph.vue';
import { useCampaign, useDesk } from '../stores/index.ts';
import { variantPicture } from './looks.ts';
import { IconButton, MenuButton, PickCard, TextField, openContextMenu } from '../ui/index.ts';

/** All looks of the product side by side, each traced small; a click shows one, its name is edited in place. */
const desk = useDesk();
const campaign = useCampaign();
const SIDE = 220;
const product = computed(() => desk.product!);
/** Products that the variant in hand may be copied to. */
const others = computed(() =>
  [...campaign.products]
    .filter(([key]) => key !== desk.id)
    .map(([key, p]) => ({ title: p.name, run: () => desk.carryTo(key) })),
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
/** What can be done with a variant, which is shown by it. */
function openMenu(event: MouseEvent, id: string): void {
  desk.variantId = id;
  openContextMenu(event, [
    { title: 'New variant like this', run: () => desk.addVariant() },
    ...(others.value.length > 0 ? [{ heading: 'Copy to' }, ...others.value] : []),
    null,
    {
      title: 'Delete variant',
      icon: mdiTrashCanOutline,
      disabled: product.value.variants.length < 2,
      run: () => desk.removeVariant(id),
    },
  ]);
}
</script>

<template>
  <section class="card strip" aria-label="Variants" data-test="variants">
    <div class="about">
      <h2>Variants</h2>
      <p class="dim">{{ summary }}</p>
      <MenuButton v-if="others.length" :lines="others" data-test="carry-variant">Copy to...</MenuButton>
    </div>
    <ul class="scroll">
      <li
        v-for="variant in product.variants"
        :key="variant.id"
        :class="{ on: variant.id === desk.variant?.id }"
        @contextmenu="openMenu($event, variant.id)"
      >
        <PickCard
          class="picture"
          :label="`Show ${variant.name}`"
          :on="variant.id === desk.variant?.id"
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
        </PickCard>
        <span class="row caption">
          <TextField
            class="name"
            :value="variant.name"
            label="Name of the variant"
            maxlength="120"
            @change="(name) => desk.run(renameVariant(variant.id, name))"
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
        <PickCard class="picture new" data-test="add-variant" @click="desk.addVariant()"> New variant </PickCard>
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
