<script setup lang="ts">
import { question } from './confirm.ts';
import DialogCard from './DialogCard.vue';
import UiButton from './UiButton.vue';

/** Asks what `confirm` was called with; it stands once at the root. */
</script>

<template>
  <DialogCard
    :open="question !== null"
    :title="question?.title ?? ''"
    data-test="confirm"
    @close="question?.answer(false)"
  >
    <p>{{ question?.text }}</p>
    <template #end>
      <UiButton autofocus @click="question?.answer(false)">Leave it</UiButton>
      <UiButton :tone="question?.danger ? 'danger' : 'primary'" @click="question?.answer(true)">
        {{ question?.yes }}
      </UiButton>
    </template>
  </DialogCard>
</template>
