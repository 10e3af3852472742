<script setup lang="ts">
import { computed } from 'vue';
import { useTipText } from './shortcut-label.ts';
import TipText from './TipText.vue';

/** A button that is only a picture: it has a name, and a tooltip with its keys. */
const {
  icon,
  label,
  action = '',
  disabled = false,
  pressed = undefined,
  small = false,
} = defineProps<{
  /** SVG path. */
  icon: string;
  label: string;
  /** Id of the action that it runs, for its keys in the tooltip. */
  action?: string;
  disabled?: boolean;
  pressed?: boolean;
  small?: boolean;
}>();
const tipText = useTipText();
const said = computed(() => tipText(label, action));
</script>

<template>
  <v-btn
    class="ui-icon-button"
    :class="{ on: pressed, small }"
    :icon="true"
    :disabled="disabled"
    :aria-label="label"
    :aria-pressed="pressed"
  >
    <v-icon :icon="icon" :size="small ? 15 : 18" />
    <!-- With a menu open it would lie over that. -->
    <TipText v-if="$attrs['aria-expanded'] !== 'true'" :text="said" />
  </v-btn>
</template>
