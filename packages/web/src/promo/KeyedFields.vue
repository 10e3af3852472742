<script setup lang="ts" generic="V extends object">
import type { NumberProperty } from '@tender-orbit/core/properties';
import PropertyField from '../controls/PropertyField.vue';
import type { KeyedValues } from './use-keyed-values.ts';

/** Values at the playhead of something of the promo, with the beads that key them. */
const {
  of,
  properties,
  paths,
  labels = {},
} = defineProps<{
  of: KeyedValues<V>;
  properties: Readonly<Record<keyof V & string, NumberProperty>>;
  paths: ReadonlyArray<keyof V & string>;
  /** Instead of the properties' own names. */
  labels?: Partial<Record<keyof V & string, string>>;
}>();
const valueOf = (path: keyof V & string): number => of.now.value[path] as number;
const labelOf = (path: string): string | undefined => (labels as Record<string, string | undefined>)[path];
</script>

<template>
  <PropertyField
    v-for="path in paths"
    :key="path"
    :property="properties[path]"
    :label="labelOf(path)"
    :value="valueOf(path)"
    keyable
    :keyed="of.keyed(path)"
    @change="(v, gesture) => of.set({ [path]: v } as Partial<V>, gesture)"
    @key="of.key(path)"
  />
</template>
