<script setup lang="ts">
import TipText from './TipText.vue';

/** The bead beside a value: keys it at the playhead, or takes its key away. */
const { label, keyed } = defineProps<{ label: string; keyed: 'key' | 'track' | 'none' }>();
const emit = defineEmits<{ key: [] }>();
</script>

<template>
  <v-btn
    class="bead"
    :class="keyed"
    :icon="true"
    :aria-label="`${keyed === 'key' ? 'Remove key of' : 'Key'} ${label}`"
    :aria-pressed="keyed === 'key'"
    @click="emit('key')"
  >
    <TipText :text="`${keyed === 'key' ? 'Remove key of' : 'Key'} ${label} at the playhead`" />
  </v-btn>
</template>

<style scoped>
.bead {
  width: 11px;
  height: 11px;
  min-width: 0;
  padding: 0;
  border-radius: 50%;
  border: 1.5px solid #8a8199;
  background: transparent;
}
.bead.track {
  border-color: var(--celadon);
}
.bead.key {
  border-color: var(--celadon);
  background: var(--celadon);
}
</style>
