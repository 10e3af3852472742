<script setup lang="ts">
import { changeMarker, type Marker } from '@tender-orbit/core/document';
import { shortened } from '@tender-orbit/core/text';
import { NumberField, TextArea } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** A marker, or a note over a stretch of time. */
const { marker } = defineProps<{ marker: Marker }>();
const { run } = usePromo();
function write(text: string): void {
  const name = shortened(text.trim(), 120);
  if (name) run(changeMarker(marker.id, 'Write note', { name }));
}
</script>

<template>
  <h2>{{ marker.length > 0 ? 'Note' : 'Marker' }}</h2>
  <TextArea label="Says" :value="marker.name" @change="write" />
  <NumberField
    label="At frame"
    unit="f"
    :value="marker.at + 1"
    :min="1"
    :max="100000"
    :step="1"
    @change="(v, g) => run(changeMarker(marker.id, 'Move marker', { at: Math.round(v) - 1 }), g)"
  />
  <NumberField
    label="Lasts"
    unit="f"
    :value="marker.length"
    :min="0"
    :max="100000"
    :step="1"
    :usual="0"
    @change="(v, g) => run(changeMarker(marker.id, 'Change length of note', { length: Math.round(v) }), g)"
  />
</template>
