<script setup lang="ts">
import { UiButton } from '../ui/index.ts';
import { usePromoGraph } from './use-promo-graph.ts';

/** Which numbers of what is chosen the graph shows, each in the colour of its line. */
const { all, shows, toggle } = usePromoGraph();
</script>

<template>
  <div class="names scroll" data-test="graph-names">
    <UiButton
      v-for="row in all"
      :key="row.id"
      class="name"
      :pressed="shows(row.id)"
      :tip="`${row.label}: ${shows(row.id) ? 'shown' : 'left out'}`"
      @click="toggle(row.id)"
    >
      <i :style="{ background: row.colour }" aria-hidden="true" />
      <span class="clip">{{ row.label }}</span>
    </UiButton>
  </div>
</template>

<style scoped>
.names {
  display: grid;
  align-content: start;
  gap: 2px;
  padding-right: 4px;
}
.name {
  justify-content: start;
  min-width: 0;
  height: 22px;
  padding: 0 4px;
  font-size: 12px;
}
.name i {
  flex: none;
  width: 7px;
  height: 7px;
  margin-right: 5px;
  border-radius: 50%;
}
</style>
