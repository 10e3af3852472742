<script setup lang="ts">
import { computed } from 'vue';
import { fieldGroups, findThing, isEffectSetting, propertyOf, type SetEffect } from '@tender-orbit/core/document';
import type { NumberProperty } from '@tender-orbit/core/properties';
import PropertyField from '../../controls/PropertyField.vue';
import { useCampaign, useSelection, useStage } from '../../stores/index.ts';
import ArrangePanel from './ArrangePanel.vue';
import CameraDetails from './CameraDetails.vue';
import EffectDetails from './EffectDetails.vue';
import KeyMore from './KeyMore.vue';
import OwnFields from './OwnFields.vue';
import LightBalance from './LightBalance.vue';
import LightDetails from './LightDetails.vue';
import PlaceTools from './PlaceTools.vue';
import ProductDetails from './ProductDetails.vue';
import RoomDetails from './RoomDetails.vue';
import RayVisibilityDetails from './RayVisibilityDetails.vue';
import SurfaceDetails from './SurfaceDetails.vue';

const { keys = false } = defineProps<{ /** Shows the bead that keys a number. */ keys?: boolean }>();
const stage = useStage();
const selection = useSelection();
const campaign = useCampaign();
const found = computed(() => (stage.posed && stage.selected ? findThing(stage.posed, stage.selected) : undefined));
const kind = computed(() => found.value?.role ?? null);
/** The numbers of the thing, in the order and under the headings of its kind. */
const groups = computed(() => {
  const thing = found.value;
  if (!thing) return [];
  return fieldGroups(thing).map(({ title, paths }) => ({
    title,
    fields: paths.map((path) => ({ path, property: propertyOf(thing, path) as NumberProperty })),
  }));
});
/** Whether a field says how an effect is made up: those take no keys. */
const isSetting = (path: string): boolean =>
  found.value?.role === 'effect' && isEffectSetting(found.value.thing as SetEffect, path);
const EXTRAS = {
  product: ProductDetails,
  surface: SurfaceDetails,
  light: LightDetails,
  camera: CameraDetails,
  environment: RoomDetails,
} as const;

function change(path: string, { label }: NumberProperty, value: number, gesture: string): void {
  stage.setNumber(stage.selected, path, value, `Change ${label.toLowerCase()} of ${found.value?.name}`, gesture);
}
</script>

<template>
  <section class="card scroll details" aria-label="Details" data-test="details">
    <ArrangePanel v-if="selection.all.length > 1" />
    <template v-else-if="kind && stage.thing">
      <h2 class="clip">{{ stage.thing.name }}</h2>
      <PlaceTools v-if="kind !== 'environment'" :id="stage.selected" />
      <EffectDetails v-if="kind === 'effect'" :id="stage.selected" :keys="keys" />
      <component :is="EXTRAS[kind]" v-else-if="kind !== 'null'" :id="stage.selected" />
      <fieldset v-for="group in groups" :key="group.title">
        <legend>{{ group.title }}</legend>
        <PropertyField
          v-for="{ path, property } in group.fields"
          :key="`${stage.selected} ${path}`"
          :property="property"
          :value="stage.number(stage.selected, path)"
          :keyable="keys && !isSetting(path)"
          :keyed="stage.isKeyed(stage.selected, path)"
          @change="(value, gesture) => change(path, property, value, gesture)"
          @key="stage.toggleKey(stage.selected, path, property.label.toLowerCase())"
        />
      </fieldset>
      <KeyMore v-if="keys" :id="stage.selected" />
      <OwnFields v-if="keys && kind === 'product'" :id="stage.selected" />
      <RayVisibilityDetails v-if="!keys && (kind === 'product' || kind === 'surface')" :id="stage.selected" />
    </template>
    <template v-else>
      <h2>{{ campaign.set?.name }}</h2>
      <p class="dim">Choose a thing in the list, in the viewer or on the orbit plan; its numbers appear here.</p>
      <dl class="facts">
        <dt>Products</dt>
        <dd class="mono">{{ campaign.set?.products.length }}</dd>
        <dt>Lights</dt>
        <dd class="mono">
          {{ campaign.set?.lights.filter((l) => l.on).length }} on,
          {{ Math.round(campaign.set?.lights.reduce((n, l) => n + (l.on ? l.lumens : 0), 0) ?? 0) }} lm
        </dd>
        <dt>Room</dt>
        <dd class="mono">{{ campaign.set?.environment.intensity }} cd/m2</dd>
        <dt>Camera</dt>
        <dd class="mono">{{ campaign.camera?.name }} {{ campaign.camera?.focalLength }} mm</dd>
      </dl>
      <LightBalance />
    </template>
  </section>
</template>

<style scoped>
.details {
  padding: 12px 14px;
}
h2 {
  margin-bottom: 8px;
}
fieldset {
  border: 0;
  margin: 0 0 8px;
  padding: 0;
}
legend {
  margin: 4px 0 2px 20px;
  font-weight: 600;
}
.facts {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
}
.facts dt {
  color: var(--bone-dim);
}
.facts dd {
  margin: 0;
}
</style>
