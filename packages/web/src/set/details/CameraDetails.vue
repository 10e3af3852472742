<script setup lang="ts">
import { chooseCamera, setProperties } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { dollied, levelled, PRIMES, SENSORS } from '@tender-orbit/core/camera';
import { useCampaign, useDocuments, useNotices, useStage } from '../../stores/index.ts';
import { useFraming } from '../../viewer/use-framing.ts';
import { NumberField, SelectField, ToggleRow, UiButton } from '../../ui/index.ts';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const stage = useStage();
const camera = computed(() => stage.posed?.cameras.find((c) => c.id === id));

const lenses = PRIMES.map((prime) => ({ value: prime as number, label: String(prime), tip: `${prime} mm lens` }));
const sensors = computed(() => {
  const known = SENSORS.map(({ name, width }) => ({ value: width as number, title: name as string }));
  const own = camera.value?.sensorWidth;
  return own === undefined || known.some((s) => s.value === own)
    ? known
    : [...known, { value: own, title: `${own} mm wide` }];
});
const focuses = computed(() => [
  { value: '', title: 'Focus by distance' },
  ...(campaign.set?.products ?? []).map((p) => ({ value: p.id, title: `Focus on ${p.name}` })),
]);

function lens(path: 'focalLength' | 'sensorWidth', value: number): void {
  stage.setNumber(id, path, value, path === 'focalLength' ? 'Change lens' : 'Change sensor');
}
function put(label: string, values: Record<string, number>, gesture = `camera-${Date.now()}`): void {
  const rounded = Object.entries(values).map(([path, value]) => [path, Number(value.toFixed(6))] as const);
  stage.setValues(id, Object.fromEntries(rounded), label, gesture);
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
function focusOn(thing: string): void {
  stage.run(setProperties(id, { focusOn: thing }, 'Change focus'));
}
function use(): void {
  documents.run('shot', campaign.shotId, chooseCamera(id));
}
const { frameProducts } = useFraming();
</script>

<template>
  <div v-if="camera" class="extra">
    <ToggleRow
      label="Lens"
      mono
      :options="lenses"
      :value="camera.focalLength"
      @change="(focalLength) => lens('focalLength', focalLength)"
    />
    <div class="row wrap">
      <SelectField
        class="sensor"
        label="Sensor"
        :options="sensors"
        :value="camera.sensorWidth"
        @change="(width) => lens('sensorWidth', width)"
      />
      <SelectField class="sensor" label="Focus on" :options="focuses" :value="camera.focusOn" @change="focusOn" />
      <UiButton data-test="level" @click="level">Level verticals</UiButton>
      <UiButton @click="frameProducts(id)">Frame products</UiButton>
      <UiButton v-if="campaign.shot?.camera !== id" tone="primary" @click="use"> Use in this shot </UiButton>
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
