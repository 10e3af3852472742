<script setup lang="ts">
import { findThing, isEffectSetting, propertiesOfThing, type SetEffect } from '@tender-orbit/core/document';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { computed } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useCampaign, useStage } from '../../stores/index.ts';
import { MoreFields } from '../../ui/index.ts';

/** What of a thing can be keyed besides its numbers: switches, choices, colours, its variant. */
const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const fields = computed(() => {
  const found = stage.posed && findThing(stage.posed, id);
  if (!found) return [];
  return Object.entries(propertiesOfThing(found)).filter(
    ([path, { type }]) =>
      !path.includes('*') &&
      !(found.role === 'effect' && isEffectSetting(found.thing as SetEffect, path)) &&
      type !== 'number' &&
      type !== 'turn' &&
      type !== 'place' &&
      stage.value(id, path) !== undefined,
  );
});
const item = computed(() => campaign.set?.products.find((p) => p.id === id));
/** What a reference can be of. */
function optionsOf(path: string): Array<{ value: string; title: string }> {
  const variants = path === 'variant' ? campaign.products.get(item.value?.product ?? '')?.variants : undefined;
  const first = { value: '', title: variants ? 'The first one' : 'None' };
  return [first, ...(variants ?? campaign.set?.products ?? []).map((t) => ({ value: t.id, title: t.name }))];
}
function change(path: string, { label }: Property, value: PropertyValue, gesture: string): void {
  stage.setValues(id, { [path]: value }, `Change ${label.toLowerCase()}`, gesture);
}
</script>

<template>
  <MoreFields v-if="fields.length" title="More that can be keyed">
    <AnyField
      v-for="[path, property] in fields"
      :key="`${id} ${path}`"
      :property="property"
      :value="stage.value(id, path)!"
      :options="optionsOf(path)"
      keyable
      :keyed="stage.isKeyed(id, path)"
      @change="(value, gesture) => change(path, property, value, gesture)"
      @key="stage.toggleKey(id, path, property.label.toLowerCase())"
    />
  </MoreFields>
</template>
