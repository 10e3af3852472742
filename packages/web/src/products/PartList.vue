<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline } from '@mdi/js';
import { findFinish, finishIdOf, showPart, type ProductDocument } from '@tender-orbit/core/document';
import { linearToHex, type Finish } from '@tender-orbit/core/finish';
import { useDesk } from '../stores/index.ts';
import { IconButton, PickCard } from '../ui/index.ts';

/** The parts of a product, with the finish they have in the variant in hand. */
const { product, short = false } = defineProps<{ product: ProductDocument; short?: boolean }>();
const desk = useDesk();

/** Whether a part is seen in the variant in hand. */
function shown(index: number): boolean {
  const part = product.parts.find((p) => p.index === index)!;
  return part.visible && !desk.variant?.hidden.includes(index);
}
function toggle(i: number): void {
  const { index, name } = product.parts[i];
  desk.run(showPart(index, desk.variant!.id, !shown(index), name));
}
/** The colour a finish is known by: what a filling tints light with, else its own. */
function swatch(used: Finish | undefined): string {
  if (!used) return linearToHex([0.5, 0.5, 0.5]);
  return linearToHex(used.attenuationDistance > 0 ? used.attenuationColor : used.baseColor);
}
</script>

<template>
  <ul :class="{ short }" class="scroll">
    <li v-for="(part, i) in product.parts" :key="part.index" class="row">
      <PickCard class="part" :on="i === desk.part" data-test="part" @click="desk.part = i">
        <span class="swatch" :style="{ background: swatch(findFinish(product, finishIdOf(part, desk.variant))) }" />
        <span class="clip spread">{{ part.name || `Part ${i + 1}` }}</span>
        <span class="mono dim">{{ part.triangles.toLocaleString('en') }}</span>
      </PickCard>
      <IconButton
        :icon="shown(part.index) ? mdiEyeOutline : mdiEyeOffOutline"
        :label="`${shown(part.index) ? 'Hide' : 'Show'} ${part.name}`"
        @click="toggle(i)"
      />
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
ul.short {
  max-height: 172px;
}
li {
  gap: 2px;
}
.part {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  height: 28px;
  padding: 0 6px;
  border-radius: 6px;
}
.swatch {
  flex: none;
  width: 16px;
  height: 16px;
  border-radius: 50%;
  border: 1px solid var(--line);
}
</style>
