<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { sentenceOf } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead, useStage } from '../stores/index.ts';
import ConflictDialog from './ConflictDialog.vue';
import CourseLine from './CourseLine.vue';
import ShortcutSheet from './ShortcutSheet.vue';

const route = useRoute();
const router = useRouter();
const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const stage = useStage();
const notices = useNotices();
const failure = ref('');
const help = ref(false);

watch(
  () => String(route.params.campaign ?? ''),
  async (id) => {
    if (!id) return;
    failure.value = '';
    try {
      await campaign.open(id);
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

function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  const typing = target.closest('input, textarea, [contenteditable]') !== null;
  const command = event.ctrlKey || event.metaKey;
  if (command && event.key.toLowerCase() === 'z' && !typing) {
    event.preventDefault();
    if (event.shiftKey) documents.redo();
    else documents.undo();
  } else if (event.key === 'Delete' && !typing && stage.selected && /\/(set|moves)$/.test(route.path)) {
    stage.remove(stage.selected);
  } else if (event.key === '?' && !typing) {
    help.value = true;
  } else if (
    event.key === ' ' &&
    !typing &&
    target.closest('button, [role="slider"], a') === null &&
    campaign.shot &&
    !route.path.endsWith('/promo')
  ) {
    event.preventDefault();
    playhead.play(campaign.shot.length, campaign.rate);
  }
}

/** Leaving with work that has not reached the server asks first; it is kept in the browser either way. */
function onLeave(event: BeforeUnloadEvent): void {
  if (documents.unsavedCount > 0) event.preventDefault();
}

/** A page that is hidden may never be seen again: a phone ends it without a word. */
function onHide(): void {
  if (document.visibilityState === 'hidden') void documents.keepAll();
}

onMounted(() => {
  document.addEventListener('visibilitychange', onHide);
  window.addEventListener('keydown', onKey);
  window.addEventListener('beforeunload', onLeave);
});
onBeforeUnmount(() => {
  document.removeEventListener('visibilitychange', onHide);
  window.removeEventListener('keydown', onKey);
  window.removeEventListener('beforeunload', onLeave);
  playhead.stop();
});
</script>

<template>
  <div class="frame">
    <CourseLine @help="help = true" />
    <main v-if="campaign.campaign" class="station">
      <router-view />
    </main>
    <div v-else class="empty">
      <p v-if="failure" role="alert">{{ failure }}</p>
      <p v-else class="dim">Opening...</p>
      <button v-if="failure" class="chip primary" @click="router.push('/')">All campaigns</button>
    </div>
    <ConflictDialog />
    <ShortcutSheet v-model="help" />
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
.empty {
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
}
</style>
