<script setup lang="ts">
import { computed } from 'vue';
import { BUILDER_PROPERTIES, type Builder, type CAPS } from '@tender-orbit/core/document';
import { readProperty, writeProperty } from '@tender-orbit/core/properties';
import PropertyField from '../controls/PropertyField.vue';
import { useDesk } from '../stores/index.ts';
import ProfileEditor from './ProfileEditor.vue';
import { FieldRow, SelectField, UiButton, optionsOf } from '../ui/index.ts';

const { builder } = defineProps<{ builder: Builder }>();
const desk = useDesk();

const CAP_NAMES = optionsOf<(typeof CAPS)[number]>({ none: 'none', lid: 'lid', cork: 'cork' });
/** The numbers of its kind that mean something as it stands. */
const fields = computed(() =>
  Object.entries(BUILDER_PROPERTIES[builder.kind]).flatMap(([path, property]) =>
    property.type === 'number' && isUsed(path) ? [{ path, property }] : [],
  ),
);

function isUsed(path: string): boolean {
  if (builder.kind !== 'turned') return true;
  if (path.startsWith('band.')) return builder.band.shown;
  if (path === 'cap.height') return builder.cap.kind !== 'none';
  return path !== 'fill' || builder.wall > 0;
}

function set(label: string, path: string, value: unknown, gesture = ''): void {
  const change = (draft: Builder): Builder => {
    writeProperty(draft, path, value);
    return draft;
  };
  desk.rebuild(label, change, gesture);
}
</script>

<template>
  <section aria-label="Body" data-test="builder">
    <ProfileEditor v-if="builder.kind === 'turned'" :profile="builder.profile" />
    <PropertyField
      v-for="{ path, property } in fields"
      :key="path"
      :property="property"
      :value="readProperty(builder, path) as number"
      @change="(value, gesture) => set(`Change ${property.label.toLowerCase()}`, path, value, gesture)"
    />
    <template v-if="builder.kind === 'turned'">
      <FieldRow label="Cap">
        <SelectField
          label="Cap"
          :options="CAP_NAMES"
          :value="builder.cap.kind"
          @change="(cap) => set('Choose cap', 'cap.kind', cap)"
        />
      </FieldRow>
      <UiButton :pressed="builder.band.shown" @click="set('Label band', 'band.shown', !builder.band.shown)">
        Label band
      </UiButton>
    </template>
    <UiButton
      v-if="builder.kind === 'pouch'"
      :pressed="builder.standing"
      @click="set('Stand-up pouch', 'standing', !builder.standing)"
    >
      Stands up
    </UiButton>
  </section>
</template>

<style scoped>
.chip {
  margin: 4px 0 0 20px;
}
</style>
