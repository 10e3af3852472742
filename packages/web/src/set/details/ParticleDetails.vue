<script setup lang="ts">
import { propertyOf, type ParticlesEffect } from '@tender-orbit/core/document';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { computed } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useCampaign, useStage } from '../../stores/index.ts';
import { type SelectOption } from '../../ui/index.ts';

/** What particles are, where they come from and what carries them. */
const { effect, things } = defineProps<{
  effect: ParticlesEffect;
  /** Things that they can come from. */
  things: ReadonlyArray<SelectOption<string>>;
}>();
const emit = defineEmits<{ change: [path: string, property: Property, value: PropertyValue, gesture: string] }>();
const campaign = useCampaign();
const stage = useStage();

const named = (first: string, list: ReadonlyArray<{ id: string; name: string }>): Array<SelectOption<string>> => [
  { value: '', title: first },
  ...list.map(({ id, name }) => ({ value: id, title: name })),
];
const options = computed((): Record<string, ReadonlyArray<SelectOption<string>>> => ({
  thing: things,
  product: named('Choose a product of the set', campaign.set?.products ?? []),
  follows: named(
    'Nothing',
    (campaign.set?.effects ?? []).filter((e) => e.kind === 'smoke'),
  ),
}));
/** A source's own size and place are not asked for where it has none. */
const paths = computed(() => {
  const { source, form, collides } = effect;
  const sized = source === 'ball' || source === 'box' ? ['width', 'height', 'depth'] : [];
  return [
    ...['form', ...(form === 'product' ? ['product'] : ['colour', 'otherColour'])],
    ...['source', 'thing', ...sized],
    ...['collides', ...(collides ? ['contact'] : []), 'follows'],
  ];
});
const property = (path: string): Property => propertyOf({ role: 'effect', thing: effect }, path)!;
const valueOf = (path: string): PropertyValue => stage.value(effect.id, path)!;
</script>

<template>
  <AnyField
    v-for="path in paths"
    :key="path"
    :property="property(path)"
    :value="valueOf(path)"
    :options="options[path]"
    @change="(value, gesture) => emit('change', path, property(path), value, gesture)"
  />
</template>
