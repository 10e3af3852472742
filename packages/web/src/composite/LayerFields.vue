<script setup lang="ts">
import { isLayerKeyed, layerProperties, type Layer } from '@tender-orbit/core/document';
import { computed } from 'vue';
import AnyField from '../controls/AnyField.vue';
import { useRack } from '../stores/index.ts';

/** Fields of some of a layer's values at the playhead, with the beads that key them. */
const { layer, names } = defineProps<{ layer: Layer; names: readonly string[] }>();
const rack = useRack();
const properties = computed(() => layerProperties(layer.kind));
</script>

<template>
  <AnyField
    v-for="name in names"
    :key="`${layer.id} ${name}`"
    :property="properties[name]"
    :value="rack.value(layer, name)"
    :keyable="isLayerKeyed(name)"
    :keyed="rack.isKeyed(layer.id, name)"
    @change="(value, gesture) => rack.setValue(layer, name, value, gesture)"
    @key="rack.key(layer, name)"
  />
</template>
