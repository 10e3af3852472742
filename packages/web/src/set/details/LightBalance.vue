<script setup lang="ts">
import { computed } from 'vue';
import { meterLight, placeLight } from '@tender-orbit/core/scene';
import { boundsCentre } from '@tender-orbit/core/geometry';
import { useStage } from '../../stores/index.ts';
import { boxesIn } from '../../viewer/boxes.ts';
import { useTableau } from '../../viewer/use-tableau.ts';
import { PickCard } from '../../ui/index.ts';

const stage = useStage();
const tableau = useTableau();

/** The middle of the first product, where it stands: there a photographer holds the meter. */
const meter = computed<[number, number, number]>(() => {
  const first = tableau.value?.instances[0];
  const box = first && boxesIn(tableau.value!).get(first.id);
  return box ? boundsCentre(box) : [0, 0.05, 0];
});
const rows = computed(() =>
  (stage.posed?.lights ?? [])
    .filter((l) => l.on)
    .map((light) => ({
      id: light.id,
      name: light.name,
      role: light.role,
      lux: meterLight(placeLight(light), meter.value),
    }))
    .sort((a, b) => b.lux - a.lux),
);
const most = computed(() => Math.max(1, ...rows.value.map((r) => r.lux)));
const contrast = computed(() => {
  const sum = (role: string): number => rows.value.filter((r) => r.role === role).reduce((n, r) => n + r.lux, 0);
  const fill = sum('fill');
  return fill > 0 ? (sum('key') + fill) / fill : 0;
});
</script>

<template>
  <section aria-label="Light at the product">
    <h3>Light at the product</h3>
    <PickCard
      v-for="row in rows"
      :key="row.id"
      class="bar"
      :on="stage.selected === row.id"
      @click="stage.selected = row.id"
    >
      <span class="clip">{{ row.name }}</span>
      <span class="track"><span :style="{ width: `${(row.lux / most) * 100}%` }" /></span>
      <span class="mono dim">{{ Math.round(row.lux).toLocaleString('en') }} lx</span>
    </PickCard>
    <p v-if="contrast" class="dim">
      Key with fill against fill alone: <span class="mono">{{ contrast.toFixed(1) }}:1</span>
    </p>
  </section>
</template>

<style scoped>
h3 {
  margin: 16px 0 6px;
}
.bar {
  display: grid;
  grid-template-columns: 88px 1fr 78px;
  align-items: center;
  gap: 8px;
  width: 100%;
  height: 26px;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.bar > :last-child {
  text-align: right;
}
.track {
  height: 6px;
  border-radius: 3px;
  background: var(--ink-2);
}
.track span {
  display: block;
  height: 100%;
  border-radius: 3px;
  background: var(--honey);
}
</style>
