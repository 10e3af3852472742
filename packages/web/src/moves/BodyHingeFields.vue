<script setup lang="ts">
import type { SetProduct } from '@tender-orbit/core/document';
import { ownItems } from '@tender-orbit/core/product';
import { number } from '@tender-orbit/core/properties';
import { HINGE_SIDES, type HingeSide } from '@tender-orbit/core/simulate';
import { computed } from 'vue';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign } from '../stores/index.ts';
import { FieldRow, MoreFields, SelectField } from '../ui/index.ts';
import type { HingeRequest } from '../workers/bodies-worker.ts';

/** A part of a product that swings about an edge while things fall: a lid, a flap. */
const { value, products } = defineProps<{ value: HingeRequest | null; products: readonly SetProduct[] }>();
const emit = defineEmits<{ change: [value: HingeRequest | null] }>();
const campaign = useCampaign();

const ANGLES = {
  start: number('Begins open', 'deg', -180, 180),
  from: number('Least', 'deg', -180, 180),
  to: number('Most', 'deg', -180, 180),
} as const;
type Angle = keyof typeof ANGLES;
const names = Object.keys(ANGLES) as Angle[];

/** Parts of all products of more than one part. */
const parts = computed(() =>
  products.flatMap(({ id, name, product }) => {
    const document = campaign.products.get(product);
    const own = document ? ownItems(document).filter(({ group }) => group === 'parts') : [];
    return own.length < 2 ? [] : own.map((part) => ({ value: `${id} ${part.item}`, title: `${name}: ${part.name}` }));
  }),
);
const options = computed(() => [{ value: '', title: 'Nothing' }, ...parts.value]);
const sides = HINGE_SIDES.map((side) => ({ value: side, title: `At the ${side}` }));
const chosen = computed(() => (value ? `${value.thing} ${value.parts[0]}` : ''));

function choose(what: string): void {
  const [thing, part] = what.split(' ');
  const before = value ?? { side: 'back' as const, from: 0, to: 110, start: 75 };
  emit('change', part ? { ...before, thing, parts: [Number(part)] } : null);
}
function turn(angle: Angle, degrees: number): void {
  if (!value) return;
  const next = { ...value, [angle]: degrees };
  // What lies beyond a limit moves the limit.
  if (angle === 'start') Object.assign(next, { from: Math.min(next.from, degrees), to: Math.max(next.to, degrees) });
  else next.start = Math.min(Math.max(next.start, next.from), next.to);
  if (next.from <= next.to) emit('change', next);
}
</script>

<template>
  <MoreFields v-if="parts.length" title="Hinge">
    <FieldRow label="Swings">
      <SelectField label="Part that swings" :options="options" :value="chosen" @change="choose" />
    </FieldRow>
    <template v-if="value">
      <FieldRow label="Hinge">
        <SelectField
          label="Where it is hinged"
          :options="sides"
          :value="value.side"
          @change="(side) => emit('change', { ...value!, side: side as HingeSide })"
        />
      </FieldRow>
      <PropertyField
        v-for="name in names"
        :key="name"
        :property="ANGLES[name]"
        :value="value[name]"
        @change="(degrees) => turn(name, degrees)"
      />
    </template>
  </MoreFields>
</template>
