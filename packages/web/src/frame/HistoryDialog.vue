<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { DocumentKind } from '@tender-orbit/core/document';
import { api, type RevisionEntry, type StoredDocument } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';

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
watch([open, chosen], () => open.value && void look());

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
async function keepAs(entry: RevisionEntry, event: Event): Promise<void> {
  const name = (event.target as HTMLInputElement).value.trim();
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
  <v-dialog v-model="open" max-width="760">
    <section class="card history" aria-label="Saved revisions" data-test="history">
      <div class="row">
        <h2>Saved revisions</h2>
        <span class="spread" />
        <select v-model="chosen" class="field choice" aria-label="Document">
          <option v-for="c in choices" :key="c.key" :value="c.key">{{ c.name }}</option>
        </select>
      </div>
      <ul class="scroll">
        <li v-for="(entry, i) in entries" :key="entry.revision" class="row">
          <span class="mono dim number">{{ entry.revision }}</span>
          <span class="clip spread">{{ entry.label }}</span>
          <v-text-field
            class="keep"
            :model-value="entry.name ?? ''"
            :aria-label="`Name of revision ${entry.revision}`"
            placeholder="Name to keep"
            variant="plain"
            density="compact"
            hide-details
            maxlength="120"
            @change="keepAs(entry, $event)"
          />
          <span class="dim">{{ when(entry.at) }}</span>
          <span v-if="i === 0" class="chip still now">current</span>
          <button
            v-else
            type="button"
            class="chip"
            :disabled="documents.unsavedCount > 0"
            @click="bringBack(entry.revision)"
          >
            Bring back
          </button>
        </li>
      </ul>
      <button type="button" class="chip" @click="open = false">Close</button>
    </section>
  </v-dialog>
</template>

<style scoped>
.history {
  display: grid;
  gap: 12px;
  padding: 20px;
  justify-items: stretch;
}
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
.history > .chip {
  justify-self: start;
}
</style>
