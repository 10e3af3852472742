<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import { formatNumber, parseNumber } from './parse-number.ts';
import type { VTextField } from 'vuetify/components';
import KeyBead from './KeyBead.vue';

/** A number: drag it to scrub, type arithmetic or a unit, step it with arrows; its bead keys it at the playhead. */
const props = withDefaults(
  defineProps<{
    label: string;
    value: number;
    unit?: string;
    min?: number;
    max?: number;
    step?: number;
    usual?: number;
    hideLabel?: boolean;
    keyed?: 'key' | 'track' | 'none';
    keyable?: boolean;
  }>(),
  { unit: '', min: -Infinity, max: Infinity, step: 1, usual: undefined, keyed: 'none', keyable: false },
);
const emit = defineEmits<{ change: [value: number, gesture: string]; key: [] }>();

const typing = ref<string | null>(null);
const wrong = ref('');
const field = ref<InstanceType<typeof VTextField>>();
const input = (): HTMLInputElement | null | undefined => field.value?.$el.querySelector('input');
const shown = computed(() => typing.value ?? formatNumber(props.value, props.step));
let drag: { x: number; from: number; moved: boolean; id: string } | null = null;

function commit(value: number, gesture = ''): void {
  emit('change', Math.min(props.max, Math.max(props.min, value)), gesture);
}

function finish(): void {
  if (typing.value === null) return;
  const value = parseNumber(typing.value, props.unit);
  if (value === null) {
    wrong.value = `${props.label} needs a number, like ${formatNumber(props.value, props.step)}; "${typing.value.slice(0, 20)}" was not taken.`;
  } else {
    wrong.value =
      value < props.min || value > props.max
        ? `${props.label} goes from ${props.min} to ${props.max}; the nearest was taken.`
        : '';
    commit(value);
  }
  typing.value = null;
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    finish();
    void nextTick(() => input()?.select());
  } else if (event.key === 'Escape') {
    typing.value = null;
    wrong.value = '';
    input()?.blur();
  } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    event.preventDefault();
    finish();
    const size = props.step * (event.shiftKey ? 0.1 : event.ctrlKey ? 10 : 1);
    commit(props.value + (event.key === 'ArrowUp' ? size : -size));
  }
}

function onDown(event: PointerEvent): void {
  if (document.activeElement === input() || event.button !== 0) return;
  drag = { x: event.clientX, from: props.value, moved: false, id: `scrub-${Date.now()}` };
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}

function onMove(event: PointerEvent): void {
  if (!drag) return;
  const dx = event.clientX - drag.x;
  if (!drag.moved && Math.abs(dx) < 4) return;
  drag.moved = true;
  event.preventDefault();
  const speed = event.shiftKey ? 0.1 : event.ctrlKey ? 10 : 1;
  const value = drag.from + Math.round(dx / 3) * props.step * speed;
  commit(Number(value.toFixed(6)), drag.id);
}

function onUp(): void {
  const clicked = drag && !drag.moved;
  drag = null;
  if (!clicked) return;
  input()?.focus();
  input()?.select();
}
</script>

<template>
  <div class="number-row" :class="{ bare: hideLabel }">
    <KeyBead v-if="keyable" :label="label" :keyed="keyed" @key="emit('key')" />
    <span v-else />
    <span v-if="!hideLabel" class="label clip" :title="label">{{ label }}</span>
    <v-text-field
      ref="field"
      class="ui-field number mono"
      inputmode="decimal"
      :model-value="shown"
      :suffix="unit"
      :aria-label="unit ? `${label}, ${unit}` : label"
      :error="wrong !== ''"
      :aria-invalid="wrong !== ''"
      @pointerdown="onDown"
      @pointermove="onMove"
      @pointerup="onUp"
      @update:model-value="(text: string) => (typing = text)"
      @update:focused="(on: boolean) => on || finish()"
      @keydown="onKey"
      @dblclick="usual !== undefined && commit(usual)"
    />
    <p v-if="wrong" class="why" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.number-row {
  display: grid;
  grid-template-columns: 14px var(--label-width, 84px) minmax(0, 1fr);
  align-items: center;
  gap: 2px 6px;
  min-height: 28px;
}
.number-row.bare {
  grid-template-columns: 14px 1fr;
}
.label {
  color: var(--bone-dim);
}
.number {
  cursor: ew-resize;
  min-width: 0;
  touch-action: none;
}
.number :deep(input) {
  cursor: inherit;
}
.number :deep(input:focus) {
  cursor: text;
}
.why {
  grid-column: 1 / -1;
  margin: 0 0 4px 20px;
  color: var(--coral);
  font-size: 12px;
}
</style>
