<script setup lang="ts">
import { computed } from 'vue';
import {
  chooseLightShape,
  GOBO_PATHS,
  GOBO_PATTERNS,
  GRADIENTS,
  LIGHT_SHAPE_KINDS,
  LIGHT_SHAPES,
  propertyOf,
  setProperties,
  toggleLink,
  type GoboPattern,
  type Gradient,
  type LightLinking,
  type LightShape,
} from '@tender-orbit/core/document';
import { readProperty, type PropertyValue } from '@tender-orbit/core/properties';
import FieldRow from '../controls/FieldRow.vue';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign, useStage } from '../stores/index.ts';

/** Shape of a light, how its face is lit, its gobo, and light linking: which things it reaches. */
const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const light = computed(() => campaign.set?.lights.find((l) => l.id === id));

const FACES: Record<Gradient, string> = {
  even: 'Even',
  round: 'Bright middle',
  across: 'Falls off across',
  down: 'Falls off downwards',
};
const GOBOS: Record<GoboPattern, string> = {
  none: 'Nothing',
  blinds: 'Blinds',
  window: 'Window bars',
  leaves: 'Leaves',
  dots: 'Holes',
  breakup: 'Torn clouds',
};
const LINKING: Record<LightLinking['mode'], string> = {
  all: 'Everything',
  only: 'Only chosen things',
  except: 'All but chosen things',
};

const hasFace = computed(() => light.value !== undefined && LIGHT_SHAPE_KINDS[light.value.shape].face);
const things = computed(() => [...(campaign.set?.products ?? []), ...(campaign.set?.surfaces ?? [])]);

function set(label: string, values: Record<string, PropertyValue>, gesture = ''): void {
  stage.run(setProperties(id, values, label), gesture);
}
const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;
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
      <select
        class="field"
        aria-label="Shape"
        data-test="light-shape"
        :value="light.shape"
        @change="(e) => stage.run(chooseLightShape(id, valueOf(e) as LightShape))"
      >
        <option v-for="shape in LIGHT_SHAPES" :key="shape" :value="shape">{{ LIGHT_SHAPE_KINDS[shape].label }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="hasFace && light.shape !== 'spot'" label="Face">
      <select
        class="field"
        aria-label="Face"
        :value="light.gradient"
        @change="(e) => set('Change face of light', { gradient: valueOf(e) })"
      >
        <option v-for="gradient in GRADIENTS" :key="gradient" :value="gradient">{{ FACES[gradient] }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="hasFace" label="Gobo">
      <select
        class="field"
        aria-label="Gobo"
        :value="light.gobo.pattern"
        @change="(e) => set('Change gobo', { 'gobo.pattern': valueOf(e) })"
      >
        <option v-for="pattern in GOBO_PATTERNS" :key="pattern" :value="pattern">{{ GOBOS[pattern] }}</option>
      </select>
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
      <select
        class="field"
        aria-label="Light linking"
        :value="light.lightLinking.mode"
        @change="(e) => set('Link light', { 'lightLinking.mode': valueOf(e) })"
      >
        <option v-for="(label, mode) in LINKING" :key="mode" :value="mode">{{ label }}</option>
      </select>
    </FieldRow>
    <div v-if="light.lightLinking.mode !== 'all'" class="things" role="group" aria-label="Chosen things">
      <button
        v-for="thing in things"
        :key="thing.id"
        type="button"
        class="chip"
        :class="{ on: light.lightLinking.things.includes(thing.id) }"
        :aria-pressed="light.lightLinking.things.includes(thing.id)"
        @click="stage.run(toggleLink(id, thing.id))"
      >
        {{ thing.name }}
      </button>
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
