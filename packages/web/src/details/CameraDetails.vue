<script setup lang="ts">
import { chooseCamera, setProperties } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { dollied, frameBounds, levelled, PRIMES, SENSORS } from '@tender-orbit/core/camera';
import { boundsOf, emptyBounds, type Bounds } from '@tender-orbit/core/geometry';
import { toPolar } from '@tender-orbit/core/staging';
import NumberField from '../controls/NumberField.vue';
import { useCampaign, useDocuments, useNotices, useStage } from '../stores/index.ts';
import { modelOf } from '../viewer/models.ts';
import { useTableau } from '../viewer/use-tableau.ts';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const stage = useStage();
const tableau = useTableau();
const camera = computed(() => stage.posed?.cameras.find((c) => c.id === id));

function lens(path: 'focalLength' | 'sensorWidth', value: number): void {
  stage.setNumber(id, path, value, path === 'focalLength' ? 'Change lens' : 'Change sensor');
}
function put(label: string, values: Record<string, number>, gesture = `camera-${Date.now()}`): void {
  const rounded = Object.entries(values).map(([path, value]) => [path, Number(value.toFixed(6))] as const);
  stage.setNumbers(id, Object.fromEntries(rounded), label, gesture);
}
/** Holds the camera level and shifts its lens instead, so that upright edges stay upright. */
function level(): void {
  const found = camera.value && levelled(camera.value, campaign.aspect);
  if (!found) {
    notices.refuse('The camera looks too steeply for its lens to be shifted that far: lower it, or aim higher.');
    return;
  }
  put('Level the camera', { 'aim.1': found.aim[1], shiftY: found.shiftY });
}
/** Another lens, with the camera stepped back or forward so that the product keeps its size. */
function dolly(focalLength: number, gesture: string): void {
  if (!camera.value) return;
  const { position } = dollied(camera.value, focalLength);
  put('Dolly', { focalLength, ...Object.fromEntries(position.map((v, axis) => [`position.${axis}`, v])) }, gesture);
}
function focusOn(event: Event): void {
  const thing = (event.target as HTMLSelectElement).value;
  stage.run(setProperties(id, { focusOn: thing }, 'Change focus'));
}
function use(): void {
  documents.run('shot', campaign.shotId, chooseCamera(id));
}
/** The box round everything that stands on the set. */
function productBox(): Bounds | null {
  const box = emptyBounds();
  for (const instance of tableau.value?.instances ?? []) {
    const model = modelOf(instance.model);
    if (!model) continue;
    const own = boundsOf(
      instance.parts.map((p) => model.meshes[p.index]),
      instance.matrix,
    );
    for (let a = 0; a < 3; a++) {
      box.min[a] = Math.min(box.min[a], own.min[a]);
      box.max[a] = Math.max(box.max[a], own.max[a]);
    }
  }
  return Number.isFinite(box.min[0]) ? box : null;
}
/** Steps back or forward on its own line of sight until all products are in the picture. */
function frameProducts(): void {
  const box = productBox();
  if (!box || !camera.value) return;
  const { position, aim, focalLength, sensorWidth } = camera.value;
  const { azimuth, elevation } = toPolar(position.map((v, a) => v - aim[a]));
  const framed = frameBounds(box, { focalLength, sensorWidth, aspect: campaign.aspect }, azimuth, elevation, 0.12);
  const numbers = (['position', 'aim'] as const).flatMap((point) =>
    framed[point].map((value, axis) => [`${point}.${axis}`, Number(value.toFixed(4))] as const),
  );
  stage.setNumbers(id, Object.fromEntries(numbers), `Frame products with ${camera.value.name}`);
}
</script>

<template>
  <div v-if="camera" class="extra">
    <div class="row wrap">
      <button
        v-for="prime in PRIMES"
        :key="prime"
        type="button"
        class="chip mono"
        :class="{ on: camera.focalLength === prime }"
        :aria-label="`${prime} mm lens`"
        @click="lens('focalLength', prime)"
      >
        {{ prime }}
      </button>
    </div>
    <div class="row wrap">
      <select
        class="field sensor"
        aria-label="Sensor"
        :value="camera.sensorWidth"
        @change="lens('sensorWidth', +($event.target as HTMLSelectElement).value)"
      >
        <option v-for="sensor in SENSORS" :key="sensor.name" :value="sensor.width">{{ sensor.name }}</option>
        <option v-if="!SENSORS.some((s) => s.width === camera!.sensorWidth)" :value="camera.sensorWidth">
          {{ camera.sensorWidth }} mm wide
        </option>
      </select>
      <select class="field sensor" aria-label="Focus on" :value="camera.focusOn" @change="focusOn">
        <option value="">Focus by distance</option>
        <option v-for="product in campaign.set?.products" :key="product.id" :value="product.id">
          Focus on {{ product.name }}
        </option>
      </select>
      <button type="button" class="chip" data-test="level" @click="level">Level verticals</button>
      <button type="button" class="chip" @click="frameProducts">Frame products</button>
      <button v-if="campaign.shot?.camera !== id" type="button" class="chip primary" @click="use">
        Use in this shot
      </button>
    </div>
    <NumberField
      label="Dolly to"
      unit="mm"
      :value="camera.focalLength"
      :min="4"
      :max="1200"
      :step="1"
      title="Changes the lens and steps back or forward: what it aims at keeps its size"
      @change="dolly"
    />
  </div>
</template>

<style scoped>
.extra {
  display: grid;
  gap: 6px;
  margin-bottom: 8px;
}
.wrap {
  flex-wrap: wrap;
  gap: 4px;
}
.sensor {
  width: 120px;
}
</style>
