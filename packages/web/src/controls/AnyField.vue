<script setup lang="ts">
import type { NumberProperty, Property, PropertyValue } from '@tender-orbit/core/properties';
import { computed } from 'vue';
import { CheckField, ColourField, FieldRow, KeyBead, SelectField, type SelectOption } from '../ui/index.ts';
import PropertyField from './PropertyField.vue';

/** A value of a document of any kind, as its property says; of a place, its three numbers. */
const {
  property,
  value,
  label = '',
  options = [],
  keyable = false,
  keyed = 'none',
} = defineProps<{
  property: Property;
  value: PropertyValue;
  /** Instead of the property's own name. */
  label?: string;
  /** What a reference can be of. */
  options?: ReadonlyArray<SelectOption<string>>;
  keyable?: boolean;
  keyed?: 'key' | 'track' | 'none';
}>();
const emit = defineEmits<{ change: [value: PropertyValue, gesture: string]; key: [] }>();

const name = computed(() => label || property.label);
const choices = computed(() => {
  if (property.type === 'reference') return options;
  return property.type === 'choice'
    ? property.choices.map((choice) => ({ value: choice, title: choice.replace(/^./, (l) => l.toUpperCase()) }))
    : [];
});
const parts = computed((): readonly NumberProperty[] => (property.type === 'place' ? property.parts : []));
function setPart(axis: number, part: number, gesture: string): void {
  emit('change', (value as number[]).with(axis, part), gesture);
}
</script>

<template>
  <PropertyField
    v-if="property.type === 'number' || property.type === 'turn'"
    :label="name"
    :property="property"
    :value="value as number"
    :keyable="keyable"
    :keyed="keyed"
    @change="(v, gesture) => emit('change', v, gesture)"
    @key="emit('key')"
  />
  <template v-else-if="property.type === 'place'">
    <PropertyField
      v-for="(part, axis) in parts"
      :key="axis"
      :label="`${name} ${part.label.toLowerCase()}`"
      :property="part"
      :value="(value as number[])[axis]"
      @change="(v, gesture) => setPart(axis, v, gesture)"
    />
  </template>
  <div v-else-if="property.type === 'colour'" class="beaded">
    <KeyBead v-if="keyable" :label="name" :keyed="keyed" @key="emit('key')" />
    <span v-else />
    <ColourField
      class="inner"
      :label="name"
      :value="value as string"
      @change="(v, gesture) => emit('change', v, gesture)"
    />
  </div>
  <div v-else-if="property.type === 'switch'" class="switch">
    <KeyBead v-if="keyable" :label="name" :keyed="keyed" @key="emit('key')" />
    <span v-else />
    <CheckField :label="name" :value="value as boolean" @change="(on) => emit('change', on, '')" />
  </div>
  <FieldRow v-else :label="name" :keyable="keyable" :keyed="keyed" @key="emit('key')">
    <SelectField
      :label="name"
      :options="choices"
      :value="value as string"
      @change="(choice) => emit('change', choice, '')"
    />
  </FieldRow>
</template>

<style scoped>
.switch,
.beaded {
  display: grid;
  grid-template-columns: 14px minmax(0, 1fr);
  align-items: center;
  gap: 6px;
  min-height: 28px;
}
/* Rows bring a column of their own for a bead. */
.beaded > .inner {
  margin-left: -20px;
}
</style>
