<script setup lang="ts">
import { setProperties } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { linearToHex, type Rgb } from '@tender-orbit/core/finish';
import { kelvinToRgb } from '@tender-orbit/core/light';
import { boundsCentre } from '@tender-orbit/core/geometry';
import { surfaceTraits } from '@tender-orbit/core/scene';
import { useCampaign, useStage } from '../../stores/index.ts';
import { boxesIn } from '../../viewer/boxes.ts';
import { useTableau } from '../../viewer/use-tableau.ts';
import LightPower from './LightPower.vue';
import LightShaping from './LightShaping.vue';
import { MenuButton, UiButton } from '../../ui/index.ts';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const tableau = useTableau();
const light = computed(() => campaign.set?.lights.find((l) => l.id === id));
const kelvinColour = (kelvin: number): string => {
  const rgb = kelvinToRgb(kelvin);
  const peak = Math.max(...rgb);
  return linearToHex(rgb.map((v) => v / peak) as Rgb);
};
const gradient = `linear-gradient(90deg, ${[2000, 3000, 4500, 6500, 9000].map(kelvinColour).join(', ')})`;

function set(label: string, values: Record<string, boolean>): void {
  stage.run(setProperties(id, values, label));
}
/** What a light can be aimed at: products and bodies, at the middle of their boxes. */
const targets = computed(() => [
  ...(stage.posed?.products ?? []),
  ...(stage.posed?.surfaces.filter((s) => surfaceTraits(s).body) ?? []),
]);
/** Aims the light at the middle of a thing. */
function aimAt(target: string): void {
  const box = tableau.value && boxesIn(tableau.value).get(target);
  if (!box) return;
  const aim = boundsCentre(box).map((value, axis) => [`aim.${axis}`, Number(value.toFixed(4))] as const);
  stage.setValues(id, Object.fromEntries(aim), `Aim ${light.value?.name}`);
}
const aims = computed(() => targets.value.map((t) => ({ title: t.name, run: () => aimAt(t.id) })));
</script>

<template>
  <div v-if="light" class="buttons">
    <UiButton :pressed="light.on" @click="set(light.on ? 'Light off' : 'Light on', { on: !light.on })">
      {{ light.on ? 'On' : 'Off' }}
    </UiButton>
    <UiButton :pressed="stage.only === id" @click="stage.only = stage.only === id ? '' : id">
      Only this light
    </UiButton>
    <UiButton :pressed="light.seen" @click="set('Change panel in picture', { seen: !light.seen })">
      In picture
    </UiButton>
    <MenuButton class="aim" :lines="aims">Aim at</MenuButton>
    <UiButton
      :pressed="stage.highlighting === id"
      tip="Then click where on the product its highlight should be"
      data-test="place-highlight"
      @click="stage.highlighting = stage.highlighting === id ? '' : id"
    >
      Place highlight
    </UiButton>
    <span class="kelvin" :style="{ background: gradient }" aria-hidden="true"
      ><span :style="{ left: `${Math.min(100, Math.max(0, ((stage.number(id, 'kelvin') - 2000) / 7000) * 100))}%` }"
    /></span>
  </div>
  <LightPower v-if="light" :id="id" />
  <LightShaping v-if="light" :id="id" />
</template>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 8px;
}
.aim {
  width: 112px;
}
.kelvin {
  position: relative;
  flex-basis: 100%;
  height: 5px;
  margin: 4px 0;
  border-radius: 3px;
}
.kelvin span {
  position: absolute;
  top: -3px;
  width: 3px;
  height: 11px;
  border-radius: 2px;
  background: #fff;
}
</style>
