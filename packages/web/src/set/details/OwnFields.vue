<script setup lang="ts">
import { ownItems, ownPaths, type OwnItem } from '@tender-orbit/core/product';
import type { SetProduct } from '@tender-orbit/core/document';
import type { Property, PropertyValue } from '@tender-orbit/core/properties';
import { computed, ref } from 'vue';
import AnyField from '../../controls/AnyField.vue';
import { useCampaign, useStage } from '../../stores/index.ts';
import { FieldRow, MoreFields, SelectField } from '../../ui/index.ts';

/** What of its product a placed product can have otherwise in a shot: a part's place, the fill, a label, a finish. */
const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const picked = ref('');

const item = computed(() => campaign.set?.products.find((p) => p.id === id));
const product = computed(() => campaign.products.get(item.value?.product ?? ''));
const nameOf = ({ group, item: name }: OwnItem): string => `${group}.${name}`;
const items = computed(() => (product.value ? ownItems(product.value) : []));
const GROUPS: Record<OwnItem['group'], string> = {
  body: 'Built: ',
  clips: 'Animation: ',
  parts: 'Part: ',
  labels: 'Label: ',
  finishes: 'Finish: ',
};
const options = computed(() =>
  items.value.map((own) => ({ value: nameOf(own), title: `${GROUPS[own.group]}${own.name}` })),
);
const chosen = computed(() => items.value.find((own) => nameOf(own) === picked.value) ?? items.value[0]);
const fields = computed((): Array<{ path: string; property: Property }> => {
  if (!product.value || !chosen.value) return [];
  const variant = (stage.things.find((t) => t.id === id)?.thing as SetProduct | undefined)?.variant ?? '';
  return ownPaths(product.value, variant, chosen.value).flatMap(({ path, property }) =>
    property.type === 'place'
      ? property.parts.map((part, axis) => ({ path: `${path}.${axis}`, property: part }))
      : [{ path, property }],
  );
});
/** Numbers of a place rest at nothing. */
const valueOf = (path: string): PropertyValue => stage.value(id, path) ?? 0;
function change(path: string, { label }: Property, value: PropertyValue, gesture: string): void {
  stage.setValues(id, { [path]: value }, `Key ${label.toLowerCase()} of ${chosen.value.name}`, gesture);
}
</script>

<template>
  <MoreFields v-if="items.length" title="Parts, labels and finishes">
    <FieldRow label="Of">
      <SelectField
        label="Part, label or finish"
        :options="options"
        :value="chosen ? nameOf(chosen) : ''"
        @change="(name) => (picked = name)"
      />
    </FieldRow>
    <AnyField
      v-for="{ path, property } in fields"
      :key="`${id} ${path}`"
      :property="property"
      :value="valueOf(path)"
      keyable
      :keyed="stage.isKeyed(id, path)"
      @change="(value, gesture) => change(path, property, value, gesture)"
      @key="stage.toggleKey(id, path, property.label.toLowerCase())"
    />
  </MoreFields>
</template>
