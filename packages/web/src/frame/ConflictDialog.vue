<script setup lang="ts">
import { useDocuments } from '../stores/index.ts';
import { DialogCard, UiButton } from '../ui/index.ts';

const documents = useDocuments();
</script>

<template>
  <DialogCard
    :open="documents.conflict !== null"
    :title="`This ${documents.conflict?.kind} was changed elsewhere`"
    persistent
    data-test="conflict"
  >
    <p>{{ documents.conflict?.message }}</p>
    <template #end>
      <UiButton @click="documents.settle('theirs')">Take the other</UiButton>
      <UiButton tone="primary" @click="documents.settle('mine')">Keep mine</UiButton>
    </template>
  </DialogCard>
</template>
