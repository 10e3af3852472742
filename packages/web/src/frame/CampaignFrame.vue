<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { sentenceOf } from '../api/index.ts';
import { useActions, useFinds, useHandlers } from '../actions/index.ts';
import { useCampaign, useDesk, useDocuments, useNotices, usePlayhead, useStage } from '../stores/index.ts';
import CommandSearch from './CommandSearch.vue';
import ConflictDialog from './ConflictDialog.vue';
import CourseLine from './CourseLine.vue';
import HistoryDialog from './HistoryDialog.vue';
import ShortcutSheet from './ShortcutSheet.vue';
import { loadShot, loadStations, STATIONS } from './stations.ts';
import { usePresence } from './use-presence.ts';
import { useShotActions } from './use-shot-actions.ts';
import { UiButton } from '../ui/index.ts';

const route = useRoute();
const router = useRouter();
const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const stage = useStage();
const notices = useNotices();
const failure = ref('');
const help = ref(false);
const finding = ref(false);
const history = ref(false);
const desk = useDesk();
const actions = useActions();

watch(
  () => String(route.params.campaign ?? ''),
  async (id) => {
    if (!id) return;
    failure.value = '';
    try {
      await campaign.open(id);
      loadShot();
    } catch (error) {
      failure.value = sentenceOf(error);
    }
  },
  { immediate: true },
);

/** Work that the server or the document's own rules refuse is still in hand; the reason is said at once. */
watch(
  () => documents.problem,
  (problem) => problem && notices.refuse(problem),
);

const goTo = (path: string): void => void router.push(`/campaign/${String(route.params.campaign)}/${path}`);
useHandlers({
  'edit.undo': {
    run: () => documents.undo(),
    enabled: () => documents.undoStack.length > 0,
    label: () => `Undo ${documents.undoStack.at(-1)?.label ?? ''}`.trim(),
  },
  'edit.redo': {
    run: () => documents.redo(),
    enabled: () => documents.redoStack.length > 0,
    label: () => `Redo ${documents.redoStack.at(-1)?.label ?? ''}`.trim(),
  },
  'find.open': () => (finding.value = true),
  'keys.open': () => (help.value = true),
  'revisions.open': () => (history.value = true),
  'go.campaigns': () => void router.push('/'),
  ...Object.fromEntries(STATIONS.map(({ path }) => [`go.${path}`, () => goTo(path)])),
});
useShotActions();
usePresence();
useFinds(() => [
  ...campaign.shots.map((shot) => ({
    title: shot.document?.name ?? 'Shot',
    hint: 'Shot',
    run: () => void (campaign.shotId = shot.id),
  })),
  ...[...campaign.products].map(([id, product]) => ({
    title: product.name,
    hint: 'Product',
    run: () => {
      desk.id = id;
      goTo('products');
    },
  })),
  ...stage.things.map(({ id, name, role }) => ({
    title: name,
    hint: `On the set, ${role}`,
    run: () => {
      stage.selected = id;
      if (!/\/(set|moves)$/.test(route.path)) goTo('set');
    },
  })),
]);

/** Leaving with work that has not reached the server asks first; it is kept in the browser either way. */
function onLeave(event: BeforeUnloadEvent): void {
  if (documents.unsavedCount > 0) event.preventDefault();
}

/** A page that is hidden may never be seen again: a phone ends it without a word. */
function onHide(): void {
  if (document.visibilityState === 'hidden') void documents.keepAll();
}

onMounted(() => {
  loadStations();
  document.addEventListener('visibilitychange', onHide);
  window.addEventListener('keydown', actions.press);
  window.addEventListener('beforeunload', onLeave);
});
onBeforeUnmount(() => {
  document.removeEventListener('visibilitychange', onHide);
  window.removeEventListener('keydown', actions.press);
  window.removeEventListener('beforeunload', onLeave);
  playhead.stop();
});
</script>

<template>
  <div class="frame">
    <CourseLine />
    <main v-if="campaign.campaign" class="station">
      <router-view />
    </main>
    <div v-else-if="failure" class="empty">
      <p role="alert">{{ failure }}</p>
      <UiButton tone="primary" @click="router.push('/')">All campaigns</UiButton>
    </div>
    <div v-else class="opening" role="status" aria-label="Opening the campaign">
      <v-skeleton-loader type="list-item@8" />
      <v-skeleton-loader type="image@3" />
      <v-skeleton-loader type="list-item@8" />
    </div>
    <ConflictDialog />
    <HistoryDialog v-model="history" />
    <ShortcutSheet v-model="help" />
    <CommandSearch v-model="finding" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-rows: 60px 1fr;
  height: 100vh;
  min-width: 1100px;
  background: var(--ink-0);
}
.station {
  min-height: 0;
  padding: 0 8px 8px;
}
.opening {
  display: grid;
  grid-template-columns: 212px 1fr 320px;
  gap: 8px;
  min-height: 0;
  padding: 0 8px 8px;
  overflow: hidden;
}
.empty {
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
}
</style>
