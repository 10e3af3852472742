<script setup lang="ts">
import { LAYERS, type LayerKind } from '@tender-orbit/core/document';
import { PickCard } from '../ui/index.ts';
import { useRack } from '../stores/index.ts';
import { LAYER_ICONS } from './layer-icons.ts';

/** What can be put on the rack. */
const rack = useRack();
const KINDS: readonly LayerKind[] = [
  ...(['gradient', 'solid', 'repeater', 'shape', 'vapour', 'specks', 'stroke', 'logo'] as const),
  ...([
    'text',
    'still',
    'footage',
    'grade',
    'tones',
    'qualifier',
    'lut',
    'lens',
    'filter',
    'take',
    'group',
    'null',
  ] as const),
];
</script>

<template>
  <section aria-label="Put on the rack" data-test="layer-shelf">
    <h2>Put on the rack</h2>
    <div class="grid">
      <PickCard v-for="kind in KINDS" :key="kind" class="kind" :data-test="`layer-${kind}`" @click="rack.add(kind)">
        <v-icon :icon="LAYER_ICONS[kind]" size="18" />
        <span class="clip">{{ LAYERS[kind].title }}</span>
      </PickCard>
    </div>
  </section>
</template>

<style scoped>
section {
  padding: 8px 10px 10px;
  border-top: 1px solid var(--line);
}
h2 {
  margin: 0 2px 6px;
  font-size: 13px;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 5px;
}
.kind {
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 5px 8px;
  font-size: 13px;
}
</style>
