<script setup lang="ts">
/** Something with a picture or several lines that is pressed to choose it. */
const {
  label = undefined,
  on = undefined,
  disabled = false,
  tip = '',
} = defineProps<{ label?: string; on?: boolean; disabled?: boolean; tip?: string }>();
</script>

<template>
  <v-card
    tag="button"
    type="button"
    class="ui-pick"
    :class="{ on }"
    :disabled="disabled"
    :aria-label="label"
    :aria-pressed="on"
    :ripple="false"
    link
  >
    <slot />
    <v-tooltip v-if="tip" activator="parent" :text="tip" />
  </v-card>
</template>
