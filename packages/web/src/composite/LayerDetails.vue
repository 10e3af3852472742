<script setup lang="ts">
import {
  isPart,
  LAYERS,
  renameLayer,
  thingsOf,
  type Layer,
  type LayerOf,
  type StrokePoint,
} from '@tender-orbit/core/document';
import { canTrace } from '@tender-orbit/core/composite';
import { linearToHex } from '@tender-orbit/core/finish';
import FontField from '../controls/FontField.vue';
import { computed } from 'vue';
import { useCampaign, useRack } from '../stores/index.ts';
import {
  CheckField,
  FieldRow,
  MenuButton,
  MoreFields,
  NumberField,
  SelectField,
  TextArea,
  TextField,
  UiButton,
} from '../ui/index.ts';
import { saveCube } from './save-cube.ts';
import GradeWheels from './GradeWheels.vue';
import GradientStops from './GradientStops.vue';
import LayerFields from './LayerFields.vue';
import LogoPick from './LogoPick.vue';
import CompositePick from './CompositePick.vue';
import MaskFields from './MaskFields.vue';
import CubePick from './CubePick.vue';
import CurvesEditor from './CurvesEditor.vue';
import FootagePick from './FootagePick.vue';
import StillPick from './StillPick.vue';
import { traceInTheSet } from './trace-layer.ts';

/** The values of a layer: what its kind has, then how it lies and blends, its mask and its span. */
const { layer } = defineProps<{ layer: Layer }>();
const campaign = useCampaign();
const rack = useRack();
const acts = computed(() => ['grade', 'tones', 'qualifier', 'curves', 'lut', 'lens', 'filter'].includes(layer.kind));

/** What a form of filter asks for besides its size. */
const FILTER_VALUES: Record<LayerOf<'filter'>['form'], string[]> = {
  ...{ blur: [], 'box blur': [], mosaic: [], 'zoom blur': [], 'spin blur': [], 'directional blur': ['angle'] },
  ...{ sharpen: ['amount'], glow: ['amount'], edge: ['amount'], 'displace by layer': ['amount', 'angle'] },
  displace: ['amount', 'grain', 'evolve', 'seed'],
  defocus: ['focus', 'amount'],
};

/** Kinds that fill the picture, and cannot be turned in space. */
const FLAT: readonly Layer['kind'][] = ['vapour', 'specks', 'fog'];

/** Names of values that a group shows; what belongs to none of the groups is the kind's own. */
/** What several stops take the place of. */
const TWO_COLOURS = ['colour', 'otherColour', 'otherOpacity', 'middle'];
const own = computed(() => {
  const all = Object.keys(LAYERS[layer.kind].properties);
  if (layer.kind === 'gradient' && layer.stops) return all.filter((name) => !TWO_COLOURS.includes(name));
  return layer.kind === 'filter' ? ['form', 'size', ...FILTER_VALUES[layer.form]] : all;
});
const round = computed(() => layer.kind === 'filter' && (layer.form === 'zoom blur' || layer.form === 'spin blur'));
const place = computed(() => {
  if (round.value) return ['x', 'y'];
  const flat = ['x', 'y', 'scale', 'stretch', 'rotation'];
  const spaced = FLAT.includes(layer.kind) ? [] : ['tilt', 'turn'];
  if (layer.kind === 'null') return [...flat, ...spaced];
  if (layer.kind === 'fog') return ['blur'];
  if (layer.kind === 'flare') return ['x', 'y', 'scale'];
  return acts.value ? [] : [...flat, ...spaced, 'blur'];
});
const MORE_PLACE = ['anchorX', 'anchorY', 'skew'];
const CORNERS = [
  ...['pinAX', 'pinAY', 'pinBX', 'pinBY', 'pinCX', 'pinCY', 'pinDX', 'pinDY'],
  ...['cropLeft', 'cropRight', 'cropTop', 'cropBottom'],
];
const PICTURES: readonly Layer['kind'][] = ['take', 'still', 'footage', 'composite', 'text', 'stroke', 'logo', 'group'];
const hasCorners = computed(() => PICTURES.includes(layer.kind));
const SET_PLACE = computed(() => [
  ...['azimuth', 'distance', 'lift'],
  // Neither has a face, and a flare no size there.
  ...(layer.kind === 'flare' ? [] : ['metres']),
  ...(layer.kind === 'flare' || layer.kind === 'specks' ? [] : ['facing']),
]);
/** Kinds that are seen by themselves, and can cast a shadow. */
const seen = computed(() => !acts.value && layer.kind !== 'take' && layer.kind !== 'null');
const canStand = computed(
  () => rack.host === 'shot' && !acts.value && layer.kind !== 'take' && layer.kind !== 'vapour' && layer.kind !== 'fog',
);
const casts = computed(() => [
  'shadow',
  ...(layer.shadow > 0 ? ['shadowX', 'shadowY', 'shadowBlur', 'shadowColour'] : []),
  'contact',
  'mirror',
  ...(layer.mirror > 0 ? ['mirrorGap', 'mirrorFall', 'mirrorBlur'] : []),
]);
const blending = computed(() => {
  if (layer.kind === 'null') return [];
  return acts.value ? ['opacity'] : ['opacity', 'blend'];
});
const SPAN = ['start', 'length'];
// A take shows the frame of the picture, whatever holds its layer.
const TIME = computed(() => [
  ...(layer.kind === 'take' ? [] : ['hold']),
  'trail',
  ...(layer.trail > 0 ? ['trailStep', 'trailFade'] : []),
]);
const set = (values: Partial<Layer>, label: string): void => rack.change(layer, label, values);
/** The take of this layer when there is none of it any more. */
const takeGone = computed(() => {
  const take = layer.kind === 'take' ? layer.take : '';
  return take !== '' && !campaign.takes.some(({ id }) => id === take) ? take : '';
});
const takes = computed(() => [
  { value: '', title: rack.host === 'shot' ? 'The take in hand' : 'The picture below' },
  ...campaign.wholeTakes.map(({ id, name }) => ({ value: id, title: name })),
  ...(takeGone.value ? [{ value: takeGone.value, title: 'A take that was deleted' }] : []),
]);
const things = computed(() =>
  (campaign.set ? thingsOf(campaign.set) : []).flatMap(({ thing }) =>
    'name' in thing ? [{ value: thing.id, title: thing.name }] : [],
  ),
);
/** Colours of the finishes of products that stand on the set, each once, by product and finish. */
const productColours = computed(() => {
  const met = new Set<string>();
  return (campaign.set?.products ?? []).flatMap(({ name, product }) =>
    (campaign.products.get(product)?.finishes ?? []).flatMap((finish) => {
      const colour = linearToHex(finish.baseColor);
      const key = `${product} ${finish.name} ${colour}`;
      if (met.has(key)) return [];
      met.add(key);
      return [{ title: `${name}: ${finish.name}`, run: () => rack.setValue(layer, 'colour', colour) }];
    }),
  );
});
/** Layers that this one may go along with: not those that go along with it. */
const others = computed(() => [
  { value: '', title: 'None' },
  ...rack.layers
    .filter((l) => !isPart(l) && !reaches(l.id, 'parent'))
    .map(({ id, name }) => ({ value: id, title: name })),
]);
/** Layers that can be its matte: a group that is hidden holds nothing. */
const mattes = computed(() =>
  others.value.filter(({ value }) => rack.layers.find((l) => l.id === value)?.kind !== 'group'),
);
const groupsOf = computed(() => [
  { value: '', title: 'None' },
  ...rack.layers
    .filter((l) => l.kind === 'group' && !reaches(l.id, 'group'))
    .map(({ id, name }) => ({ value: id, title: name })),
]);
/** Whether a layer leads to this one by its parents or groups. */
function reaches(id: string, by: 'parent' | 'group'): boolean {
  const met = new Set<string>();
  for (let at: string = id; at && !met.has(at); at = rack.layers.find((l) => l.id === at)?.[by] ?? '') {
    if (at === layer.id) return true;
    met.add(at);
  }
  return false;
}
/** Puts the layer before the first product: where it is seen. */
function stand(): void {
  const first = campaign.set?.products[0]?.id ?? '';
  const fresh = layer.thing === '' && layer.distance === 0 && layer.lift === 0;
  set(
    {
      inSet: true,
      ...(fresh && {
        thing: first,
        distance: 0.15,
        lift: 0.08,
        ...(layer.kind === 'specks' && { distance: 0, metres: 0.5 }),
      }),
    },
    'Stand in the set',
  );
}
/** A line to begin with. */
const FIRST: StrokePoint[] = [
  { at: [-0.3, -0.1], in: [0, 0], out: [0.1, 0.15] },
  { at: [0.3, 0.1], in: [-0.1, -0.15], out: [0, 0] },
];
function drawStroke(): void {
  if (layer.kind === 'stroke' && layer.points.length < 2) set({ points: FIRST } as Partial<Layer>, 'Draw stroke');
  rack.draw('stroke');
}
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
    <FontField
      v-if="layer.kind === 'text'"
      :value="layer.font"
      @change="(font) => set({ font } as Partial<Layer>, 'Choose font')"
    />
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
    <LogoPick v-if="layer.kind === 'logo'" :layer="layer" />
    <CompositePick v-if="layer.kind === 'composite'" :layer="layer" />
    <CheckField
      v-if="layer.kind === 'stroke' && layer.form !== 'line'"
      label="Filled"
      :value="layer.filled ?? false"
      data-test="filled"
      @change="(filled) => set({ filled } as Partial<Layer>, 'Fill stroke')"
    />
    <UiButton
      v-if="layer.kind === 'stroke' && layer.form === 'drawn'"
      class="save"
      data-test="draw-stroke"
      @click="drawStroke"
      >Draw by points</UiButton
    >
    <UiButton
      v-if="layer.kind === 'stroke' && layer.form === 'drawn'"
      class="save"
      :pressed="rack.drawing === 'sketch'"
      data-test="sketch-stroke"
      @click="rack.draw('sketch')"
      >Draw freehand</UiButton
    >
    <CheckField
      v-if="seen && !layer.inSet && rack.host === 'shot'"
      label="Behind the products"
      :value="layer.behind"
      @change="(on) => rack.setValue(layer, 'behind', on)"
    />
    <UiButton
      v-if="'colour' in layer"
      class="save"
      :pressed="rack.drawing === 'colour'"
      tip="Click on the picture: the layer takes the colour that is seen there"
      data-test="pick-colour"
      @click="rack.draw('colour')"
      >Pick colour from the picture</UiButton
    >
    <div v-if="'colour' in layer && productColours.length > 0" class="save">
      <MenuButton tip="The layer takes the colour of a finish" data-test="product-colour" :lines="productColours"
        >Colour of a product</MenuButton
      >
    </div>
    <NumberField
      v-if="layer.kind === 'vapour'"
      label="Loops after"
      unit="s"
      :value="layer.loop ?? 0"
      :min="0"
      :max="600"
      :step="0.5"
      @change="
        (v, gesture) => rack.change(layer, 'Loop vapour', { loop: v >= 0.1 ? v : undefined } as Partial<Layer>, gesture)
      "
    />
    <GradientStops v-if="layer.kind === 'gradient'" :layer="layer" />
    <GradeWheels v-if="layer.kind === 'grade'" :layer="layer" />
    <CurvesEditor v-if="layer.kind === 'curves'" :layer="layer" />
    <fieldset v-for="group in groups" :key="group.title">
      <legend v-if="group.title">{{ group.title }}</legend>
      <LayerFields :layer="layer" :names="group.names" />
    </fieldset>
    <FieldRow v-if="layer.kind === 'filter' && layer.form === 'displace by layer'" label="By layer">
      <SelectField
        label="Displace by layer"
        :options="mattes"
        :value="layer.matteLayer"
        @change="(matteLayer) => set({ matteLayer }, 'Choose what displaces')"
      />
    </FieldRow>
    <UiButton v-if="layer.kind === 'grade'" class="save" data-test="save-cube" @click="saveCube(layer)">
      Save as a LUT
    </UiButton>
    <MoreFields v-if="!acts" title="Anchor and skew"><LayerFields :layer="layer" :names="MORE_PLACE" /></MoreFields>
    <MoreFields v-if="hasCorners" title="Corner pin and crop">
      <UiButton
        class="save"
        :pressed="rack.drawing === 'corners'"
        data-test="drag-corners"
        @click="rack.draw('corners')"
        >Drag the corners</UiButton
      >
      <LayerFields :layer="layer" :names="CORNERS" />
    </MoreFields>
    <MoreFields v-if="canStand" title="In the set">
      <CheckField
        label="Stands in the set"
        :value="layer.inSet"
        data-test="in-set"
        @change="(on: boolean) => (on ? stand() : rack.setValue(layer, 'inSet', false))"
      />
      <template v-if="layer.inSet">
        <FieldRow label="Around">
          <SelectField
            label="Around"
            :options="[{ value: '', title: 'Middle of the floor' }, ...things]"
            :value="layer.thing"
            @change="(thing) => set({ thing }, 'Choose what it goes around')"
          />
        </FieldRow>
        <LayerFields :layer="layer" :names="SET_PLACE" />
        <p class="dim note">Hidden by what is nearer, as the take saw it; seen through its glass.</p>
        <UiButton
          v-if="canTrace(layer)"
          class="save"
          tip="It becomes a card of the set, which glass bends and floors mirror; the take is to be rendered again"
          data-test="trace-in-set"
          @click="traceInTheSet(layer)"
          >Trace it in the set</UiButton
        >
      </template>
    </MoreFields>
    <MoreFields v-if="seen" title="Shadow and reflection"><LayerFields :layer="layer" :names="casts" /></MoreFields>
    <MoreFields v-if="layer.kind !== 'null'" title="Mask and matte">
      <MaskFields :layer="layer" :things="things" :others="mattes" />
    </MoreFields>
    <MoreFields title="In the stack">
      <LayerFields v-if="layer.kind !== 'null'" :layer="layer" :names="['clip']" />
      <FieldRow v-if="!acts" label="Parent">
        <SelectField
          label="Parent"
          :options="others"
          :value="layer.parent"
          @change="(parent) => set({ parent }, 'Choose parent')"
        />
      </FieldRow>
      <FieldRow label="Group">
        <SelectField
          label="Group"
          :options="groupsOf"
          :value="layer.group"
          @change="(group) => set({ group }, 'Choose group')"
        />
      </FieldRow>
    </MoreFields>
    <MoreFields v-if="!acts && layer.kind !== 'null'" title="Hold and trail">
      <LayerFields :layer="layer" :names="TIME" />
    </MoreFields>
    <MoreFields title="Span"><LayerFields :layer="layer" :names="SPAN" /></MoreFields>
  </section>
</template>

<style scoped>
.gone {
  margin: 2px 0 6px 20px;
  color: var(--coral);
}

.note {
  margin: 2px 0 6px 20px;
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
