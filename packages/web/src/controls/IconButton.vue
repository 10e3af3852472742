<script setup lang="ts">
const {
  icon,
  label,
  shortcut = '',
  disabled = false,
  pressed = undefined,
} = defineProps<{ icon: string; label: string; shortcut?: string; disabled?: boolean; pressed?: boolean }>();
const emit = defineEmits<{ click: [] }>();
</script>

<template>
  <v-tooltip :text="shortcut ? `${label} (${shortcut})` : label">
    <template #activator="{ props }">
      <button
        v-bind="props"
        type="button"
        class="icon"
        :class="{ on: pressed }"
        :aria-label="label"
        :aria-pressed="pressed"
        :disabled="disabled"
        @click="emit('click')"
      >
        <svg width="18" height="18" viewBox="0 0 24 24" aria-hidden="true"><path :d="icon" fill="currentColor" /></svg>
      </button>
    </template>
  </v-tooltip>
</template>

<style scoped>
.icon {
  display: inline-grid;
  place-items: center;
  width: 28px;
  height: 28px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bone);
  cursor: pointer;
}
.icon:hover:not(:disabled) {
  background: var(--ink-2);
}
.icon.on {
  background: var(--celadon-deep);
  color: var(--celadon);
}
.icon:disabled {
  opacity: 0.35;
  cursor: default;
}
</style>
