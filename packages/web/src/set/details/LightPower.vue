<script setup lang="ts">
import { MOST_LUMENS, setProperties } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { useStage } from '../../stores/index.ts';
import { ColourField, NumberField, UiButton } from '../../ui/index.ts';

/** A light's power as a photographer counts it: in stops against the key, or in watts of the lamp. */
const { id } = defineProps<{ id: string }>();
const stage = useStage();
/** What a white LED lamp gives of a watt; the factor is what its maker prints on it. */
const LUMENS_A_WATT = 100;
const light = computed(() => stage.posed?.lights.find((l) => l.id === id));
const key = computed(() => stage.posed?.lights.find((l) => l.role === 'key' && l.id !== id && l.shape !== 'sun'));
const lumens = computed(() => stage.number(id, 'lumens'));
const stops = computed(() => (key.value && lumens.value > 0 ? Math.log2(lumens.value / key.value.lumens) : 0));

function set(value: number, gesture = ''): void {
  const most = Math.min(MOST_LUMENS, Math.max(0, value));
  stage.setNumber(id, 'lumens', Number(most.toPrecision(6)), `Change power of ${light.value?.name}`, gesture);
}
function mark(hex: string, gesture: string): void {
  stage.run(setProperties(id, { mark: hex }, 'Mark light'), gesture);
}
</script>

<template>
  <div v-if="light" class="power">
    <div class="row steps" role="group" aria-label="Power in stops">
      <UiButton class="mono" aria-label="-1 stop" @click="set(lumens / 2)">-1</UiButton>
      <UiButton class="mono" aria-label="-1/3 stop" @click="set(lumens / 2 ** (1 / 3))"> -1/3 </UiButton>
      <UiButton class="mono" aria-label="+1/3 stop" @click="set(lumens * 2 ** (1 / 3))"> +1/3 </UiButton>
      <UiButton class="mono" aria-label="+1 stop" @click="set(lumens * 2)">+1</UiButton>
      <span class="dim">stop</span>
    </div>
    <NumberField
      v-if="key && light.shape !== 'sun'"
      :label="`Against ${key.name}`"
      unit="stops"
      :value="stops"
      :min="-20"
      :max="20"
      :step="0.1"
      @change="(v, g) => set(key!.lumens * 2 ** v, g)"
    />
    <NumberField
      v-if="light.shape !== 'sun'"
      label="LED lamp"
      unit="W"
      :value="lumens / LUMENS_A_WATT"
      :min="0"
      :max="10000"
      :step="1"
      @change="(v, g) => set(v * LUMENS_A_WATT, g)"
    />
    <ColourField label="Mark" :value="light.mark" @change="mark" />
  </div>
</template>

<style scoped>
.power {
  margin-bottom: 6px;
}
.steps {
  gap: 4px;
  margin-bottom: 4px;
}
</style>
