<script setup lang="ts">
import { computed, ref } from 'vue';
import { repeatProduct } from '@tender-orbit/core/document';
import { ARRAYS, copyPlaces, delayCopies, type Repeat } from '@tender-orbit/core/staging';
import { useCampaign, useDocuments, useNotices, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import { NumberField, ToggleRow, UiButton } from '../../ui/index.ts';

const { id } = defineProps<{ id: string }>();
const stage = useStage();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const open = ref(false);
const plan = ref<Repeat>({
  array: 'line',
  count: 3,
  rows: 2,
  spacing: 0.12,
  angle: 0,
  turnEach: 0,
  scaleEach: 1,
  delayEach: 0,
});
const NAMES: Record<Repeat['array'], string> = { line: 'Line', ring: 'Ring', fan: 'Fan', grid: 'Grid' };
const ways = ARRAYS.map((value) => ({ value, label: NAMES[value] }));
const round = computed(() => plan.value.array === 'ring' || plan.value.array === 'fan');

function choose(array: Repeat['array']): void {
  plan.value = { ...plan.value, array, angle: array === 'fan' ? 90 : 0, spacing: array === 'ring' ? 0.2 : 0.12 };
}
function make(): void {
  void notices.guard(() => {
    const original = campaign.set?.products.find((p) => p.id === id);
    if (!original) return Promise.resolve();
    const places = copyPlaces(original, plan.value, () => freshId('product'));
    const copies = places.map((place) => place.id);
    stage.run(repeatProduct(id, places, original.name));
    documents.run('shot', campaign.shotId, delayCopies(id, copies, plan.value.delayEach));
    open.value = false;
    return Promise.resolve();
  });
}
</script>

<template>
  <UiButton :aria-expanded="open" data-test="repeat" @click="open = !open">Repeat...</UiButton>
  <div v-if="open" class="plan">
    <ToggleRow label="How copies stand" :options="ways" :value="plan.array" @change="choose" />
    <NumberField
      :label="plan.array === 'grid' ? 'In a row' : 'Together'"
      :value="plan.count"
      :min="1"
      :max="100"
      :step="1"
      @change="(v) => (plan.count = Math.round(v))"
    />
    <NumberField
      v-if="plan.array === 'grid'"
      label="Rows"
      :value="plan.rows"
      :min="1"
      :max="50"
      :step="1"
      @change="(v) => (plan.rows = Math.round(v))"
    />
    <NumberField
      :label="round ? 'Radius' : 'Spacing'"
      unit="cm"
      :value="plan.spacing * 100"
      :min="0"
      :max="1000"
      :step="1"
      @change="(v) => (plan.spacing = v / 100)"
    />
    <NumberField
      v-if="plan.array === 'fan' || plan.array === 'line'"
      :label="plan.array === 'fan' ? 'Opens over' : 'Direction'"
      unit="deg"
      :value="plan.angle"
      :min="-360"
      :max="360"
      :step="5"
      @change="(v) => (plan.angle = v)"
    />
    <NumberField
      label="Turn each"
      unit="deg"
      :value="plan.turnEach"
      :min="-360"
      :max="360"
      :step="5"
      @change="(v) => (plan.turnEach = v)"
    />
    <NumberField
      label="Size each"
      unit="%"
      :value="plan.scaleEach * 100"
      :min="1"
      :max="1000"
      :step="1"
      @change="(v) => (plan.scaleEach = v / 100)"
    />
    <NumberField
      label="Later each"
      unit="f"
      :value="plan.delayEach"
      :min="0"
      :max="1000"
      :step="1"
      @change="(v) => (plan.delayEach = Math.round(v))"
    />
    <UiButton tone="primary" data-test="repeat-make" @click="make">Make copies</UiButton>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 6px;
  justify-items: start;
  flex-basis: 100%;
}
</style>
