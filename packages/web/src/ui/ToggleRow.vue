<script setup lang="ts" generic="V extends string | number | boolean">
import type { ToggleOption } from './toggle-option.ts';
import TipText from './TipText.vue';

/** One choice of a few, all in sight. Arrow keys go from one to the next. */
const {
  options,
  label,
  value,
  mono = false,
} = defineProps<{
  options: ReadonlyArray<ToggleOption<V>>;
  /** What is chosen here. */
  label: string;
  /** Undefined or none of the options: nothing is chosen yet. */
  value: V | undefined;
  mono?: boolean;
}>();
const emit = defineEmits<{ change: [value: V] }>();

/** Moves the focus, and the choice with it, as a group of radio buttons does. */
function step(event: KeyboardEvent): void {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  const able = options.filter((o) => !o.disabled);
  const at = able.findIndex((o) => o.value === value);
  const next = able[(at + by + able.length) % able.length];
  if (!next) return;
  emit('change', next.value);
  const group = event.currentTarget as HTMLElement;
  group.querySelectorAll<HTMLElement>('[role=radio]')[options.indexOf(next)]?.focus();
}
const tabIndex = (option: ToggleOption<V>, i: number): number =>
  option.value === value || (i === 0 && !options.some((o) => o.value === value)) ? 0 : -1;
</script>

<template>
  <v-btn-toggle
    class="ui-toggle-row"
    :model-value="value"
    mandatory
    role="radiogroup"
    :aria-label="label"
    @keydown="step"
  >
    <v-btn
      v-for="(option, i) in options"
      :key="String(option.value)"
      :value="option.value"
      class="ui-button plain"
      :class="{ on: option.value === value, mono }"
      role="radio"
      :aria-checked="option.value === value"
      :aria-label="option.icon ? option.label : undefined"
      :tabindex="tabIndex(option, i)"
      :disabled="option.disabled"
      :data-test="option.test"
      @click.stop="emit('change', option.value)"
    >
      <v-icon v-if="option.icon" :icon="option.icon" size="18" />
      <template v-else>{{ option.label }}</template>
      <TipText v-if="option.icon || option.tip" :text="option.tip ?? option.label" />
    </v-btn>
  </v-btn-toggle>
</template>
