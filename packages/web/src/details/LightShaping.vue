<script setup lang="ts">
import { computed } from 'vue';
import {
  GOBO_PATTERNS,
  GRADIENTS,
  LIGHT_SHAPES,
  type GoboPattern,
  type Gradient,
  type LightShape,
  type SetDocument,
  type SetLight,
  type Touches,
} from '@tender-orbit/core/document';
import FieldRow from '../controls/FieldRow.vue';
import NumberField from '../controls/NumberField.vue';
import { useCampaign, useStage } from '../stores/index.ts';

/** Shape of a light, how its face is lit, what is held before it, and which things it touches. */
const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const light = computed(() => campaign.set?.lights.find((l) => l.id === id));

const SHAPES: Record<LightShape, string> = {
  softbox: 'Softbox',
  disc: 'Disc',
  sphere: 'Ball',
  spot: 'Spot',
  point: 'Bare point',
  sun: 'Sun',
};
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
const TOUCHES: Record<Touches['mode'], string> = {
  all: 'Everything',
  only: 'Only chosen things',
  except: 'All but chosen things',
};

const hasFace = computed(() => ['softbox', 'disc', 'spot'].includes(light.value?.shape ?? ''));
const things = computed(() => [...(campaign.set?.products ?? []), ...(campaign.set?.surfaces ?? [])]);

function edit(label: string, change: (light: SetLight) => void, gesture?: string): void {
  stage.change(label, (set: SetDocument) => change(set.lights.find((l) => l.id === id)!), gesture);
}
const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;

function toShape(event: Event): void {
  const shape = valueOf(event) as LightShape;
  edit('Change shape of light', (l) => {
    // A sun's power is lux and its angle small; other shapes come back to what a lamp has.
    if (shape === 'sun') Object.assign(l, { lumens: 20000, cone: 0.53 });
    else if (l.shape === 'sun') Object.assign(l, { lumens: 2000, cone: 40 });
    if (shape === 'spot' && l.width > 0.1) l.width = 0.04;
    l.shape = shape;
  });
}
function touch(thing: string): void {
  edit('Link light', ({ touches }) => {
    const at = touches.things.indexOf(thing);
    if (at < 0) touches.things.push(thing);
    else touches.things.splice(at, 1);
  });
}
const goboNumbers = [
  { key: 'distance', label: 'Before light', unit: 'cm', scale: 100, min: 1, max: 2000, step: 1 },
  { key: 'width', label: 'Slide width', unit: 'cm', scale: 100, min: 1, max: 2000, step: 1 },
  { key: 'height', label: 'Slide height', unit: 'cm', scale: 100, min: 1, max: 2000, step: 1 },
  { key: 'repeat', label: 'Repeats', unit: '', scale: 1, min: 1, max: 60, step: 1 },
  { key: 'seed', label: 'Seed', unit: '', scale: 1, min: 0, max: 9999, step: 1 },
] as const;
</script>

<template>
  <div v-if="light" class="shaping">
    <FieldRow label="Shape">
      <select class="field" aria-label="Shape" data-test="light-shape" :value="light.shape" @change="toShape">
        <option v-for="shape in LIGHT_SHAPES" :key="shape" :value="shape">{{ SHAPES[shape] }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="hasFace && light.shape !== 'spot'" label="Face">
      <select
        class="field"
        aria-label="Face"
        :value="light.gradient"
        @change="(e) => edit('Change face of light', (l) => (l.gradient = valueOf(e) as Gradient))"
      >
        <option v-for="gradient in GRADIENTS" :key="gradient" :value="gradient">{{ FACES[gradient] }}</option>
      </select>
    </FieldRow>
    <FieldRow v-if="hasFace" label="Gobo">
      <select
        class="field"
        aria-label="Gobo"
        :value="light.gobo.pattern"
        @change="(e) => edit('Change gobo', (l) => (l.gobo.pattern = valueOf(e) as GoboPattern))"
      >
        <option v-for="pattern in GOBO_PATTERNS" :key="pattern" :value="pattern">{{ GOBOS[pattern] }}</option>
      </select>
    </FieldRow>
    <template v-if="hasFace && light.gobo.pattern !== 'none'">
      <NumberField
        v-for="n in goboNumbers"
        :key="n.key"
        :label="n.label"
        :unit="n.unit"
        :step="n.step"
        :min="n.min"
        :max="n.max"
        :value="light.gobo[n.key] * n.scale"
        @change="
          (value, gesture) =>
            edit(
              'Change gobo',
              (l) => (l.gobo[n.key] = n.scale === 1 ? Math.round(value) : Number((value / n.scale).toFixed(5))),
              gesture,
            )
        "
      />
    </template>
    <FieldRow label="Touches">
      <select
        class="field"
        aria-label="Touches"
        :value="light.touches.mode"
        @change="(e) => edit('Link light', (l) => (l.touches.mode = valueOf(e) as Touches['mode']))"
      >
        <option v-for="(label, mode) in TOUCHES" :key="mode" :value="mode">{{ label }}</option>
      </select>
    </FieldRow>
    <div v-if="light.touches.mode !== 'all'" class="things" role="group" aria-label="Chosen things">
      <button
        v-for="thing in things"
        :key="thing.id"
        type="button"
        class="chip"
        :class="{ on: light.touches.things.includes(thing.id) }"
        :aria-pressed="light.touches.things.includes(thing.id)"
        @click="touch(thing.id)"
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
