<script setup lang="ts">
import { computed } from 'vue';
import { get, set as assign } from 'lodash-es';
import { CAPS, type Builder, type BuilderKind } from '@tender-orbit/core/document';
import FieldRow from '../controls/FieldRow.vue';
import NumberField from '../controls/NumberField.vue';
import { useDesk } from '../stores/index.ts';
import ProfileEditor from './ProfileEditor.vue';

const { builder } = defineProps<{ builder: Builder }>();
const desk = useDesk();

interface Field {
  path: string;
  label: string;
  unit: string;
  /** Shown units to a stored one. */
  scale: number;
  min: number;
  max: number;
  step: number;
}
const mm = (path: string, label: string, max = 500, min = 0, step = 1): Field => ({
  ...{ path, label, unit: 'mm', scale: 1000, min, max, step },
});
const FIELDS: Record<BuilderKind, Field[]> = {
  carton: [
    mm('width', 'Width', 5000, 1),
    mm('height', 'Height', 5000, 1),
    mm('depth', 'Depth', 5000, 1),
    mm('board', 'Board', 50, 0.1, 0.1),
    mm('bevel', 'Fold radius', 100, 0, 0.1),
    { path: 'open', label: 'Lid open', unit: 'deg', scale: 1, min: 0, max: 250, step: 1 },
  ],
  turned: [
    mm('wall', 'Wall', 100, 0, 0.1),
    { path: 'fill', label: 'Filled', unit: '%', scale: 100, min: 0, max: 100, step: 1 },
    mm('cap.height', 'Cap height', 500, 0, 0.5),
    mm('band.from', 'Label from', 5000, 0),
    mm('band.to', 'Label to', 5000, 0),
    { path: 'band.degrees', label: 'Label round', unit: 'deg', scale: 1, min: 1, max: 360, step: 1 },
  ],
  device: [
    mm('width', 'Width', 5000, 1),
    mm('height', 'Height', 5000, 1),
    mm('depth', 'Depth', 1000, 0.2, 0.1),
    mm('corner', 'Corner', 1000, 0, 0.5),
    mm('bevel', 'Edge', 500, 0, 0.1),
    mm('border', 'Border', 500, 0, 0.1),
  ],
  pouch: [
    mm('width', 'Width', 5000, 1),
    mm('height', 'Height', 5000, 1),
    mm('thickness', 'Filled', 2000, 0.5),
    mm('seal', 'Seal', 500, 0, 0.5),
  ],
  cutout: [mm('height', 'Height', 5000, 1), mm('depth', 'Depth', 2000, 0.2, 0.5), mm('bevel', 'Edge', 500, 0, 0.1)],
};
const CAP_NAMES = { none: 'none', lid: 'lid', cork: 'cork' } as const;
const fields = computed(() =>
  FIELDS[builder.kind].filter((f) => {
    if (builder.kind !== 'turned') return true;
    if (f.path.startsWith('band.')) return builder.band.shown;
    if (f.path === 'cap.height') return builder.cap.kind !== 'none';
    return f.path !== 'fill' || builder.wall > 0;
  }),
);

function set(label: string, path: string, value: unknown, gesture = ''): void {
  desk.rebuild(label, (draft) => assign(draft, path, value), gesture);
}
</script>

<template>
  <section aria-label="Body" data-test="builder">
    <ProfileEditor v-if="builder.kind === 'turned'" :profile="builder.profile" />
    <NumberField
      v-for="f in fields"
      :key="f.path"
      :label="f.label"
      :unit="f.unit"
      :value="(get(builder, f.path) as number) * f.scale"
      :min="f.min"
      :max="f.max"
      :step="f.step"
      @change="(v, g) => set(`Change ${f.label.toLowerCase()}`, f.path, Number((v / f.scale).toPrecision(9)), g)"
    />
    <template v-if="builder.kind === 'turned'">
      <FieldRow label="Cap">
        <select
          class="field"
          :value="builder.cap.kind"
          @change="set('Choose cap', 'cap.kind', ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="cap in CAPS" :key="cap" :value="cap">{{ CAP_NAMES[cap] }}</option>
        </select>
      </FieldRow>
      <button
        type="button"
        class="chip"
        :class="{ on: builder.band.shown }"
        :aria-pressed="builder.band.shown"
        @click="set('Label band', 'band.shown', !builder.band.shown)"
      >
        Label band
      </button>
    </template>
    <button
      v-if="builder.kind === 'pouch'"
      type="button"
      class="chip"
      :class="{ on: builder.standing }"
      :aria-pressed="builder.standing"
      @click="set('Stand-up pouch', 'standing', !builder.standing)"
    >
      Stands up
    </button>
  </section>
</template>

<style scoped>
.chip {
  margin: 4px 0 0 20px;
}
</style>
