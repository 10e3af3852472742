<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { DocumentKind } from '@tender-orbit/core/document';
import { api, type RevisionEntry, type StoredDocument } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { DialogCard, SelectField, TextField, UiButton } from '../ui/index.ts';

const open = defineModel<boolean>({ required: true });
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const chosen = ref('set');
const entries = ref<RevisionEntry[]>([]);

/** The documents in hand that a person would look for by name. */
const choices = computed(() => [
  { key: 'set', kind: 'set' as DocumentKind, id: campaign.setId, name: `Set: ${campaign.set?.name ?? ''}` },
  ...campaign.shots.map((s) => ({
    key: `shot:${s.id}`,
    kind: 'shot' as DocumentKind,
    id: s.id,
    name: `Shot: ${s.document?.name}`,
  })),
  ...[...campaign.products].map(([id, p]) => ({
    key: `product:${id}`,
    kind: 'product' as DocumentKind,
    id,
    name: `Product: ${p?.name}`,
  })),
  { key: 'promo', kind: 'promo' as DocumentKind, id: campaign.promoId, name: `Promo: ${campaign.promo?.name ?? ''}` },
  { key: 'campaign', kind: 'campaign' as DocumentKind, id: campaign.id, name: 'Brief' },
]);
const choice = computed(() => choices.value.find((c) => c.key === chosen.value) ?? choices.value[0]);

async function look(): Promise<void> {
  const { kind, id } = choice.value;
  await notices.guard(async () => {
    entries.value = await api<RevisionEntry[]>('GET', `/documents/${kind}/${id}/revisions`);
  });
}
watch([open, chosen], () => open.value && void look(), { immediate: true });

async function bringBack(revision: number): Promise<void> {
  const { kind, id } = choice.value;
  await notices.guard(async () => {
    documents.replace(
      kind,
      await api<StoredDocument>('POST', `/documents/${kind}/${id}/revisions/${revision}/restore`),
    );
    notices.done(`Revision ${revision} is back; what was there before it stays in the history.`);
    await look();
  });
}
/** A revision with a name is kept for good; others thin out with age. */
async function keepAs(entry: RevisionEntry, name: string): Promise<void> {
  const { kind, id } = choice.value;
  if (name === (entry.name ?? '')) return;
  await notices.guard(async () => {
    await api('PUT', `/documents/${kind}/${id}/revisions/${entry.revision}/name`, { name });
    notices.done(name ? `Revision ${entry.revision} is kept as "${name}".` : 'It thins out with the others again.');
    await look();
  });
}
function when(iso: string): string {
  return new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'medium' }).format(new Date(iso));
}
</script>

<template>
  <DialogCard :open="open" title="Saved revisions" :width="760" data-test="history" @close="open = false">
    <template #head>
      <SelectField
        class="choice"
        label="Document"
        :options="choices.map((c) => ({ value: c.key, title: c.name }))"
        :value="choice.key"
        @change="(key) => (chosen = key)"
      />
    </template>
    <ul class="scroll">
      <li v-for="(entry, i) in entries" :key="entry.revision" class="row">
        <span class="mono dim number">{{ entry.revision }}</span>
        <span class="clip spread">{{ entry.label }}</span>
        <TextField
          class="keep"
          :value="entry.name ?? ''"
          :label="`Name of revision ${entry.revision}`"
          placeholder="Name to keep"
          maxlength="120"
          @change="(name) => keepAs(entry, name.trim())"
        />
        <span class="dim">{{ when(entry.at) }}</span>
        <span v-if="i === 0" class="chip still now">current</span>
        <UiButton v-else :disabled="documents.unsavedCount > 0" @click="bringBack(entry.revision)">
          Bring back
        </UiButton>
      </li>
    </ul>
  </DialogCard>
</template>

<style scoped>
.choice {
  width: 260px;
}
ul {
  max-height: 420px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  min-height: 34px;
  border-bottom: 1px solid var(--line);
}
.number {
  width: 32px;
  text-align: right;
}
.keep {
  flex: 0 0 150px;
}
.now {
  color: var(--bone-dim);
}
</style>
