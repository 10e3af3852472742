<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import { formatNumber, parseNumber } from './parse-number.ts';

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
const box = ref<HTMLInputElement>();
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
    void nextTick(() => box.value?.select());
  } else if (event.key === 'Escape') {
    typing.value = null;
    wrong.value = '';
    box.value?.blur();
  } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    event.preventDefault();
    finish();
    const size = props.step * (event.shiftKey ? 0.1 : event.ctrlKey ? 10 : 1);
    commit(props.value + (event.key === 'ArrowUp' ? size : -size));
  }
}

function onDown(event: PointerEvent): void {
  if (document.activeElement === box.value || event.button !== 0) return;
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
  box.value?.focus();
  box.value?.select();
}
</script>

<template>
  <div class="number-row" :class="{ bare: hideLabel }">
    <button
      v-if="keyable"
      type="button"
      class="bead"
      :class="keyed"
      :aria-label="`${keyed === 'key' ? 'Remove key of' : 'Key'} ${label}`"
      :aria-pressed="keyed === 'key'"
      :title="`${keyed === 'key' ? 'Remove key of' : 'Key'} ${label} at the playhead`"
      @click="emit('key')"
    />
    <span v-else class="bead none-at-all" />
    <span v-if="!hideLabel" class="label clip" :title="label">{{ label }}</span>
    <div class="number" :class="{ wrong }" @pointerdown="onDown" @pointermove="onMove" @pointerup="onUp">
      <input
        ref="box"
        class="mono"
        inputmode="decimal"
        :value="shown"
        :aria-label="unit ? `${label}, ${unit}` : label"
        :aria-invalid="wrong !== ''"
        @input="typing = ($event.target as HTMLInputElement).value"
        @change="finish"
        @blur="finish"
        @keydown="onKey"
        @dblclick="usual !== undefined && commit(usual)"
      />
      <span class="unit mono" aria-hidden="true">{{ unit }}</span>
    </div>
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
.bead {
  width: 11px;
  height: 11px;
  padding: 0;
  border-radius: 50%;
  border: 1.5px solid #5a5268;
  background: transparent;
  cursor: pointer;
}
.bead.track {
  border-color: var(--celadon);
}
.bead.key {
  border-color: var(--celadon);
  background: var(--celadon);
}
.bead.none-at-all {
  visibility: hidden;
}
.number {
  display: flex;
  align-items: center;
  height: 26px;
  padding: 0 8px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: var(--ink-2);
  cursor: ew-resize;
  min-width: 0;
  touch-action: none;
}
.number:focus-within {
  border-color: var(--celadon);
}
.number.wrong {
  border-color: var(--coral);
}
.number input {
  width: 100%;
  min-width: 0;
  border: 0;
  outline: 0;
  background: transparent;
  color: var(--bone);
  cursor: inherit;
}
.number input:focus {
  cursor: text;
}
.unit {
  color: var(--bone-dim);
  padding-left: 4px;
}
.why {
  grid-column: 1 / -1;
  margin: 0 0 4px 20px;
  color: var(--coral);
  font-size: 12px;
}
</style>
