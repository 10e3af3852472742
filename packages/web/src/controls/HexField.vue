<script setup lang="ts">
import { ref } from 'vue';

const { label, value } = defineProps<{ label: string; value: string }>();
const emit = defineEmits<{ change: [hex: string, gesture: string] }>();
const wrong = ref('');
let gesture = '';

function finish(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim();
  const hex = text.startsWith('#') ? text : `#${text}`;
  wrong.value = /^#[0-9a-f]{6}$/i.test(hex)
    ? ''
    : `${label} must be a hex colour like #C98F6B; "${text.slice(0, 12)}" was not taken.`;
  if (!wrong.value) emit('change', hex.toUpperCase(), '');
  else (event.target as HTMLInputElement).value = value;
}
</script>

<template>
  <div class="hex-row">
    <span class="bead" />
    <span class="label clip">{{ label }}</span>
    <span class="box">
      <input
        type="color"
        :value="value"
        :aria-label="`${label}, pick`"
        @pointerdown="gesture = `colour-${Date.now()}`"
        @input="emit('change', ($event.target as HTMLInputElement).value.toUpperCase(), gesture)"
      />
      <input
        class="mono"
        :value="value"
        :aria-label="label"
        :aria-invalid="wrong !== ''"
        maxlength="7"
        @change="finish"
      />
    </span>
    <p v-if="wrong" class="why" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.hex-row {
  display: grid;
  grid-template-columns: 14px var(--label-width, 84px) minmax(0, 1fr);
  align-items: center;
  gap: 2px 6px;
  min-height: 28px;
}
.label {
  color: var(--bone-dim);
}
.box {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 26px;
  padding: 0 8px 0 4px;
  border-radius: 6px;
  background: var(--ink-2);
  min-width: 0;
}
.box:focus-within {
  outline: 1px solid var(--celadon);
}
input {
  min-width: 0;
  border: 0;
  outline: 0;
  background: transparent;
  color: var(--bone);
}
input.mono {
  flex: 1;
}
input[type='color'] {
  width: 20px;
  height: 20px;
  padding: 0;
  cursor: pointer;
}
.why {
  grid-column: 1 / -1;
  margin: 0 0 4px 20px;
  color: var(--coral);
  font-size: 12px;
}
</style>
