<script setup lang="ts">
import { LAYERS, renameLayer, type Layer, type LayerOf } from '@tender-orbit/core/document';
import { TITLE_FONTS } from '@tender-orbit/core/promo';
import { computed } from 'vue';
import { useCampaign, useRack } from '../stores/index.ts';
import { CheckField, FieldRow, MoreFields, SelectField, TextArea, TextField, UiButton } from '../ui/index.ts';
import { saveCube } from './save-cube.ts';
import LayerFields from './LayerFields.vue';
import CubePick from './CubePick.vue';
import FootagePick from './FootagePick.vue';
import StillPick from './StillPick.vue';

/** The values of a layer: what its kind has, then how it lies and blends, its mask and its span. */
const { layer } = defineProps<{ layer: Layer }>();
const campaign = useCampaign();
const rack = useRack();
const acts = computed(() => ['grade', 'tones', 'qualifier', 'lut', 'lens', 'filter'].includes(layer.kind));

/** What a form of filter asks for besides its size. */
const FILTER_VALUES: Record<LayerOf<'filter'>['form'], string[]> = {
  ...{ blur: [], mosaic: [], 'zoom blur': [], 'spin blur': [], 'directional blur': ['angle'], sharpen: ['amount'] },
  displace: ['amount', 'grain', 'evolve', 'seed'],
};

/** Kinds that fill the picture, and cannot be turned in space. */
const FLAT: readonly Layer['kind'][] = ['vapour', 'specks'];

/** Names of values that a group shows; what belongs to none of the groups is the kind's own. */
const own = computed(() =>
  layer.kind === 'filter' ? ['form', 'size', ...FILTER_VALUES[layer.form]] : Object.keys(LAYERS[layer.kind].properties),
);
const round = computed(() => layer.kind === 'filter' && (layer.form === 'zoom blur' || layer.form === 'spin blur'));
const place = computed(() => {
  if (round.value) return ['x', 'y'];
  const flat = ['x', 'y', 'scale', 'stretch', 'rotation'];
  const spaced = FLAT.includes(layer.kind) ? [] : ['tilt', 'turn'];
  return acts.value ? [] : [...flat, ...spaced, 'blur'];
});
const mask = computed(() =>
  layer.mask === 'none'
    ? ['mask']
    : ['mask', 'maskX', 'maskY', 'maskWidth', 'maskHeight', 'maskRotation', 'feather', 'maskInverted'],
);
const blending = computed(() => (acts.value ? ['opacity'] : ['opacity', 'blend']));
const SPAN = ['start', 'length'];
const set = (values: Partial<Layer>, label: string): void => rack.change(layer, label, values);
/** The take of this layer when there is none of it any more. */
const takeGone = computed(() => {
  const take = layer.kind === 'take' ? layer.take : '';
  return take !== '' && !campaign.takes.some(({ id }) => id === take) ? take : '';
});
const takes = computed(() => [
  { value: '', title: 'The take in hand' },
  ...campaign.takes.map(({ id, name }) => ({ value: id, title: name })),
  ...(takeGone.value ? [{ value: takeGone.value, title: 'A take that was deleted' }] : []),
]);
const fonts = TITLE_FONTS.map(({ id, label }) => ({ value: id, title: label }));
const groups = computed(() => [
  { title: '', names: [...own.value, ...blending.value] },
  ...(place.value.length > 0 ? [{ title: 'Place', names: place.value }] : []),
]);
</script>

<template>
  <section class="layer" aria-label="Layer" data-test="layer-details">
    <FieldRow label="Name">
      <TextField label="Name" :value="layer.name" @change="(name) => rack.run(renameLayer(layer.id, name))" />
    </FieldRow>
    <TextArea
      v-if="layer.kind === 'text'"
      label="Words"
      :value="layer.text"
      @change="(text: string) => set({ text } as Partial<Layer>, 'Change text')"
    />
    <FieldRow v-if="layer.kind === 'text'" label="Font">
      <SelectField
        label="Font"
        :options="fonts"
        :value="layer.font"
        @change="(font) => set({ font } as Partial<Layer>, 'Choose font')"
      />
    </FieldRow>
    <FieldRow v-if="layer.kind === 'take'" label="Take">
      <SelectField
        label="Take"
        :options="takes"
        :value="layer.take"
        @change="(take) => set({ take } as Partial<Layer>, 'Choose take')"
      />
    </FieldRow>
    <p v-if="takeGone" role="alert" class="gone">Its take was deleted, so nothing of it is seen: choose another.</p>
    <CubePick v-if="layer.kind === 'lut'" :layer="layer" />
    <FootagePick v-if="layer.kind === 'footage'" :layer="layer" />
    <StillPick v-if="layer.kind === 'still'" :layer="layer" />
    <CheckField
      v-if="!acts && layer.kind !== 'take'"
      label="Behind the products"
      :value="layer.behind"
      @change="(on) => rack.setValue(layer, 'behind', on)"
    />
    <fieldset v-for="group in groups" :key="group.title">
      <legend v-if="group.title">{{ group.title }}</legend>
      <LayerFields :layer="layer" :names="group.names" />
    </fieldset>
    <UiButton v-if="layer.kind === 'grade'" class="save" data-test="save-cube" @click="saveCube(layer)">
      Save as a LUT
    </UiButton>
    <MoreFields title="Mask"><LayerFields :layer="layer" :names="mask" /></MoreFields>
    <MoreFields title="Span"><LayerFields :layer="layer" :names="SPAN" /></MoreFields>
  </section>
</template>

<style scoped>
.gone {
  margin: 2px 0 6px 20px;
  color: var(--coral);
}

.save {
  margin: 4px 0 8px 20px;
}
.layer {
  padding: 8px 10px;
}
fieldset {
  margin: 6px 0;
  padding: 0;
  border: 0;
}
legend {
  margin: 4px 0 2px 20px;
  font-weight: 600;
}
</style>
