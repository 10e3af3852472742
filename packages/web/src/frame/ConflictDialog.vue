<script setup lang="ts">
import { useDocuments } from '../stores/index.ts';

const documents = useDocuments();
</script>

<template>
  <v-dialog :model-value="documents.conflict !== null" persistent>
    <v-card v-if="documents.conflict" class="pa-5" data-test="conflict">
      <h2>This {{ documents.conflict.kind }} was changed elsewhere</h2>
      <p class="my-3">{{ documents.conflict.message }}</p>
      <div class="row">
        <button type="button" class="chip primary" @click="documents.settle('mine')">Keep mine</button>
        <button type="button" class="chip" @click="documents.settle('theirs')">Take the other</button>
      </div>
    </v-card>
  </v-dialog>
</template>
