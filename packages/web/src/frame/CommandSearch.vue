<script setup lang="ts">
import { mdiMagnify } from '@mdi/js';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ENTRIES, search, useActions, type Hit } from '../actions/index.ts';

/** Finds every action by its words, and things, shots, products and kits by their names; Enter does it. */
const open = defineModel<boolean>({ required: true });
const actions = useActions();
const route = useRoute();
const router = useRouter();
const typed = ref('');
const at = ref(0);
const hits = computed(() => (open.value ? search(typed.value, actions.finds, actions.can, actions.labelOf) : []));
watch(typed, () => (at.value = 0));
watch(open, () => (typed.value = ''));

function step(by: number): void {
  if (hits.value.length === 0) return;
  at.value = (at.value + by + hits.value.length) % hits.value.length;
  void nextTick(() => document.getElementById(`hit-${at.value}`)?.scrollIntoView({ block: 'nearest' }));
}
/** An action of another station is done once that stands. */
function take(hit: Hit | undefined): void {
  if (!hit) return;
  open.value = false;
  if (hit.kind === 'find') hit.run();
  else if (!actions.run(hit.id)) {
    const { station } = ENTRIES[hit.id];
    if (!station) return;
    actions.defer(hit.id);
    void router.push(`/campaign/${String(route.params.campaign)}/${station}`);
  }
}
</script>

<template>
  <v-dialog
    v-model="open"
    max-width="560"
    location="top"
    aria-label="Search actions and things"
    content-class="search-dialog"
  >
    <v-card class="found" data-test="search">
      <v-text-field
        v-model="typed"
        class="ui-field"
        autofocus
        :prepend-inner-icon="mdiMagnify"
        placeholder="What do you want to do?"
        aria-label="Search actions and things"
        aria-controls="hits"
        :aria-activedescendant="hits.length ? `hit-${at}` : undefined"
        @keydown.down.prevent="step(1)"
        @keydown.up.prevent="step(-1)"
        @keydown.enter.prevent="take(hits[at])"
      />
      <v-list id="hits" class="hits scroll" role="listbox" aria-label="Found" bg-color="transparent">
        <v-list-item
          v-for="(hit, i) in hits"
          :id="`hit-${i}`"
          :key="`${hit.kind} ${hit.kind === 'action' ? hit.id : hit.title + hit.hint}`"
          role="option"
          :aria-selected="i === at"
          :active="i === at"
          tabindex="-1"
          @click="take(hit)"
          @mousemove="at = i"
        >
          <span class="row">
            <span class="clip spread">{{ hit.title }}</span>
            <span class="dim">{{ hit.hint }}</span>
            <span v-if="hit.kind === 'action' && actions.keysOf(hit.id)" class="mono keys">{{
              actions.keysOf(hit.id)
            }}</span>
          </span>
        </v-list-item>
        <p v-if="hits.length === 0" class="dim none" role="status">Nothing is called that. Try another word for it.</p>
      </v-list>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.found {
  display: grid;
  gap: 8px;
  padding: 12px;
  border-radius: 10px;
  background: var(--ink-1);
}
.found :deep(.v-field__input) {
  min-height: 34px;
}
.hits {
  max-height: 46vh;
  padding: 0;
}
.keys {
  padding: 1px 6px;
  border-radius: 4px;
  background: var(--line);
}
.none {
  margin: 8px 4px;
}
</style>
