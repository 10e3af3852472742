<script setup lang="ts">
import { computed } from 'vue';
import {
  chooseLightShape,
  GOBO_PATHS,
  LIGHT_SHAPE_KINDS,
  LIGHT_SHAPES,
  propertyOf,
  setProperties,
  toggleLink,
  type GoboPattern,
  type Gradient,
  type LightLinking,
} from '@tender-orbit/core/document';
import { readProperty, type PropertyValue } from '@tender-orbit/core/properties';
import PropertyField from '../../controls/PropertyField.vue';
import { useCampaign, useStage } from '../../stores/index.ts';
import { FieldRow, SelectField, UiButton, optionsOf } from '../../ui/index.ts';

/** Shape of a light, how its face is lit, its gobo, and light linking: which things it reaches. */
const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const light = computed(() => campaign.set?.lights.find((l) => l.id === id));

const FACES = optionsOf<Gradient>({
  even: 'Even',
  round: 'Bright middle',
  across: 'Falls off across',
  down: 'Falls off downwards',
});
const GOBOS = optionsOf<GoboPattern>({
  none: 'Nothing',
  blinds: 'Blinds',
  window: 'Window bars',
  leaves: 'Leaves',
  dots: 'Holes',
  breakup: 'Torn clouds',
});
const LINKING = optionsOf<LightLinking['mode']>({
  all: 'Everything',
  only: 'Only chosen things',
  except: 'All but chosen things',
});
const SHAPES = LIGHT_SHAPES.map((value) => ({ value, title: LIGHT_SHAPE_KINDS[value].label }));

const hasFace = computed(() => light.value !== undefined && LIGHT_SHAPE_KINDS[light.value.shape].face);
const things = computed(() => [...(campaign.set?.products ?? []), ...(campaign.set?.surfaces ?? [])]);

function set(label: string, values: Record<string, PropertyValue>, gesture = ''): void {
  stage.run(setProperties(id, values, label), gesture);
}
const goboFields = computed(() => {
  const found = light.value && { role: 'light' as const, thing: light.value };
  return GOBO_PATHS.flatMap((path) => {
    const property = found && propertyOf(found, path);
    return property?.type === 'number' ? [{ path, property }] : [];
  });
});
</script>

<template>
  <div v-if="light" class="shaping">
    <FieldRow label="Shape">
      <SelectField
        label="Shape"
        data-test="light-shape"
        :options="SHAPES"
        :value="light.shape"
        @change="(shape) => stage.run(chooseLightShape(id, shape))"
      />
    </FieldRow>
    <FieldRow v-if="hasFace && light.shape !== 'spot'" label="Face">
      <SelectField
        label="Face"
        :options="FACES"
        :value="light.gradient"
        @change="(gradient) => set('Change face of light', { gradient })"
      />
    </FieldRow>
    <FieldRow v-if="hasFace" label="Gobo">
      <SelectField
        label="Gobo"
        :options="GOBOS"
        :value="light.gobo.pattern"
        @change="(pattern) => set('Change gobo', { 'gobo.pattern': pattern })"
      />
    </FieldRow>
    <template v-if="hasFace && light.gobo.pattern !== 'none'">
      <PropertyField
        v-for="{ path, property } in goboFields"
        :key="path"
        :property="property"
        :value="readProperty(light, path) as number"
        @change="(value, gesture) => set('Change gobo', { [path]: value }, gesture)"
      />
    </template>
    <FieldRow label="Light linking">
      <SelectField
        label="Light linking"
        :options="LINKING"
        :value="light.lightLinking.mode"
        @change="(mode) => set('Link light', { 'lightLinking.mode': mode })"
      />
    </FieldRow>
    <div v-if="light.lightLinking.mode !== 'all'" class="things" role="group" aria-label="Chosen things">
      <UiButton
        v-for="thing in things"
        :key="thing.id"
        :pressed="light.lightLinking.things.includes(thing.id)"
        @click="stage.run(toggleLink(id, thing.id))"
      >
        {{ thing.name }}
      </UiButton>
    </div>
  </div>
</template>

<style scoped>
.shaping {
  display: grid;
  gap: 4px;
  margin-bottom: 8px;
}
.things {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-left: 20px;
}
</style>
