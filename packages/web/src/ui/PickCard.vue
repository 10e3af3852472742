<script setup lang="ts">
import TipText from './TipText.vue';

/** Something with a picture or several lines that is pressed to choose it. */
const {
  label = undefined,
  on = undefined,
  disabled = false,
  tip = '',
} = defineProps<{ label?: string; on?: boolean; disabled?: boolean; tip?: string }>();

/** A card of the library is only drawn as disabled: here it does nothing either. */
function guard(event: Event): void {
  if (disabled) event.stopImmediatePropagation();
}
</script>

<template>
  <v-card
    tag="button"
    type="button"
    class="ui-pick"
    :class="{ on }"
    :disabled="disabled"
    :aria-disabled="disabled || undefined"
    :aria-label="label"
    :aria-pressed="on"
    :ripple="false"
    link
    @click.capture="guard"
  >
    <slot />
    <TipText v-if="tip" :text="tip" />
  </v-card>
</template>
