<script setup lang="ts">
import { computed } from 'vue';
import type { SetDocument } from '@tender-orbit/core/document';
import NumberField from '../controls/NumberField.vue';
import { useCampaign, useSelection, useStage } from '../stores/index.ts';
import { fieldsOf, type NumberSpec } from '../things/fields.ts';
import { kindOf } from '../things/kind-of.ts';
import ArrangePanel from './ArrangePanel.vue';
import CameraDetails from './CameraDetails.vue';
import LightBalance from './LightBalance.vue';
import LightDetails from './LightDetails.vue';
import PlaceTools from './PlaceTools.vue';
import ProductDetails from './ProductDetails.vue';
import RoomDetails from './RoomDetails.vue';
import SeenByDetails from './SeenByDetails.vue';
import SurfaceDetails from './SurfaceDetails.vue';

const { keys = false } = defineProps<{ /** Shows the bead that keys a number. */ keys?: boolean }>();
const stage = useStage();
const selection = useSelection();
const campaign = useCampaign();
const kind = computed(() =>
  stage.posed && stage.selected ? kindOf(stage.posed as SetDocument, stage.selected) : null,
);
const groups = computed(() => (kind.value && stage.thing ? fieldsOf(kind.value, stage.thing.thing) : []));
const EXTRAS = {
  product: ProductDetails,
  surface: SurfaceDetails,
  light: LightDetails,
  camera: CameraDetails,
  environment: RoomDetails,
} as const;

function change(field: NumberSpec, value: number, gesture: string): void {
  stage.setNumber(
    stage.selected,
    field.path,
    Number((value / field.scale).toPrecision(12)),
    `Change ${field.label.toLowerCase()} of ${stage.thing?.name}`,
    gesture,
  );
}
</script>

<template>
  <section class="card scroll details" aria-label="Details" data-test="details">
    <ArrangePanel v-if="selection.all.length > 1" />
    <template v-else-if="kind && stage.thing">
      <h2 class="clip">{{ stage.thing.name }}</h2>
      <PlaceTools v-if="kind !== 'environment'" :id="stage.selected" />
      <component :is="EXTRAS[kind]" :id="stage.selected" />
      <fieldset v-for="group in groups" :key="group.title">
        <legend>{{ group.title }}</legend>
        <NumberField
          v-for="field in group.fields"
          :key="`${stage.selected} ${field.path}`"
          :label="field.label"
          :unit="field.unit"
          :step="field.step"
          :min="field.min"
          :max="field.max"
          :usual="field.usual === undefined ? undefined : field.usual * field.scale"
          :value="stage.number(stage.selected, field.path) * field.scale"
          :keyable="keys"
          :keyed="stage.isKeyed(stage.selected, field.path)"
          @change="(value, gesture) => change(field, value, gesture)"
          @key="stage.toggleKey(stage.selected, field.path, field.label.toLowerCase())"
        />
      </fieldset>
      <SeenByDetails v-if="kind === 'product' || kind === 'surface'" :id="stage.selected" />
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
