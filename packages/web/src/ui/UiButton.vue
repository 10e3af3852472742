<script setup lang="ts">
import { computed } from 'vue';
import { useTipText } from './shortcut-label.ts';
import TipText from './TipText.vue';

/** A button with words. What else a native button takes (type, aria, listeners) goes through. */
const {
  tone = 'plain',
  pressed = undefined,
  icon = undefined,
  tip = '',
  action = '',
  disabled = false,
  busy = false,
} = defineProps<{
  tone?: 'plain' | 'primary' | 'quiet' | 'danger';
  /** Makes it a switch that is on or off. */
  pressed?: boolean;
  /** SVG path, before the words. */
  icon?: string;
  /** Said on hover and focus. */
  tip?: string;
  /** Id of the action that it runs, for its keys in the tooltip. */
  action?: string;
  disabled?: boolean;
  busy?: boolean;
}>();
const tipText = useTipText();
const said = computed(() => (tip || action ? tipText(tip, action) : ''));
</script>

<template>
  <v-btn
    class="ui-button"
    :class="[tone, { on: pressed }]"
    :prepend-icon="icon"
    :disabled="disabled"
    :loading="busy"
    :aria-pressed="pressed"
  >
    <slot />
    <!-- With a menu open it would lie over that. -->
    <TipText v-if="said && $attrs['aria-expanded'] !== 'true'" :text="said" />
  </v-btn>
</template>
