<script setup lang="ts">
import type { Layer } from '@tender-orbit/core/document';
import { mdiTrashCanOutline } from '@mdi/js';
import { computed } from 'vue';
import { useRack } from '../stores/index.ts';
import { FieldRow, IconButton, SelectField, UiButton, type SelectOption } from '../ui/index.ts';
import LayerFields from './LayerFields.vue';
import OneMask from './OneMask.vue';

/** What lets a layer be seen in part: its masks, drawn or of a thing, and another layer as its matte. */
const { layer, things, others } = defineProps<{
  layer: Layer;
  things: ReadonlyArray<SelectOption<string>>;
  /** Layers that can be its matte. */
  others: ReadonlyArray<SelectOption<string>>;
}>();
const rack = useRack();
const further = computed(() => rack.masksOf(layer.id));
</script>

<template>
  <OneMask :layer="layer" :things="things" />
  <fieldset v-for="mask in further" :key="mask.id" data-test="further-mask">
    <legend class="row">
      <span class="clip">{{ mask.name }}</span>
      <span class="spread" />
      <IconButton small :icon="mdiTrashCanOutline" :label="`Delete ${mask.name}`" @click="rack.remove(mask.id)" />
    </legend>
    <LayerFields :layer="mask" :names="['combine', 'opacity']" />
    <OneMask :layer="mask" :things="things" />
  </fieldset>
  <UiButton
    v-if="layer.mask !== 'none' || further.length > 0"
    class="more"
    tip="It adds to the masks above, takes away from them, or leaves what both have"
    data-test="add-mask"
    @click="rack.addMask(layer)"
    >Another mask</UiButton
  >
  <LayerFields :layer="layer" :names="['matte']" />
  <FieldRow v-if="layer.matte !== 'none'" label="Of layer">
    <SelectField
      label="Layer of the matte"
      :options="others"
      :value="layer.matteLayer"
      @change="(matteLayer) => rack.change(layer, 'Choose matte', { matteLayer })"
    />
  </FieldRow>
</template>

<style scoped>
fieldset {
  margin: 6px 0;
  padding: 0;
  border: 0;
  border-top: 1px solid var(--line);
}
legend {
  width: 100%;
  padding: 4px 0 0 20px;
  font-weight: 600;
}
.more {
  margin: 4px 0 8px 20px;
}
</style>
