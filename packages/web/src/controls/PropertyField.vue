<script setup lang="ts">
import { computed } from 'vue';
import { fitNumber, type NumberProperty } from '@tender-orbit/core/properties';
import { NumberField } from '../ui/index.ts';

/** A number of a document in the unit a person sees, as its property says. Values go in and out in the document's unit. */
const {
  property,
  value,
  label = '',
  keyed = 'none',
} = defineProps<{
  property: NumberProperty;
  value: number;
  /** Instead of the property's own name. */
  label?: string;
  /** Shows the bead that keys it. */
  keyable?: boolean;
  keyed?: 'key' | 'track' | 'none';
}>();
const emit = defineEmits<{ change: [value: number, gesture: string]; key: [] }>();
const scale = computed(() => property.display.scale);
/** Twelve digits are finer than any lens or tape, and take back what the scale's rounding adds. */
const stored = (shown: number): number => fitNumber(property, Number((shown / scale.value).toPrecision(12)));
</script>

<template>
  <NumberField
    :label="label || property.label"
    :unit="property.display.unit"
    :step="property.display.step"
    :min="property.min * scale"
    :max="property.max * scale"
    :usual="property.usual === undefined ? undefined : property.usual * scale"
    :value="value * scale"
    :keyable="keyable"
    :keyed="keyed"
    @change="(shown, gesture) => emit('change', stored(shown), gesture)"
    @key="emit('key')"
  />
</template>
