<script setup lang="ts">
import { mdiRestore } from '@mdi/js';
import { computed, ref } from 'vue';
import { KEY_SETS } from '@tender-orbit/core/contract';
import {
  ACTION_GROUPS,
  ACTION_IDS,
  comboOf,
  ENTRIES,
  KEY_SET_NAMES,
  useActions,
  type ActionId,
} from '../actions/index.ts';
import { useNotices, useSession } from '../stores/index.ts';
import { DialogCard, IconButton, SelectField, UiButton } from '../ui/index.ts';

/** All keys: which set they come from, and the person's own, which are kept with the account. */
const open = defineModel<boolean>({ required: true });
const actions = useActions();
const session = useSession();
const notices = useNotices();
/** The action that the next keys are given to. */
const learning = ref<ActionId | null>(null);
const SETS = KEY_SETS.map((value) => ({ value, title: KEY_SET_NAMES[value] }));
const groups = ACTION_GROUPS.map((title) => ({
  title,
  ids: ACTION_IDS.filter((id) => ENTRIES[id].group === title),
}));
const GESTURES = [
  ['Drag a number', 'Change it; Shift is fine, Ctrl is coarse'],
  ['Double-click a number', 'Back to its usual value'],
  ['Arrows on the orbit plan', 'Turn a light, step it in or out; Alt raises it'],
  ['Drag in the viewer', 'Look round; right button pans, wheel comes closer'],
  ['Right click', 'What can be done with it'],
];
const own = computed(() => Object.keys(session.preferences.bindings).length);

function learn(event: KeyboardEvent): void {
  const id = learning.value;
  if (!id) return;
  event.preventDefault();
  event.stopPropagation();
  if (event.key === 'Escape') {
    learning.value = null;
    return;
  }
  const combo = event.key === 'Backspace' ? '' : comboOf(event);
  if (event.key !== 'Backspace' && !combo) return;
  learning.value = null;
  const lost = actions.bind(id, combo);
  if (lost) notices.done(`"${ENTRIES[lost].label}" had these keys and has none now.`);
}
</script>

<template>
  <DialogCard
    :open="open"
    title="Shortcuts"
    :width="860"
    data-test="shortcuts"
    @close="
      open = false;
      learning = null;
    "
  >
    <template #head>
      <span class="dim">Keys</span>
      <SelectField
        class="sets"
        label="Key set"
        :options="SETS"
        :value="session.preferences.keySet"
        @change="(keySet) => session.choose({ keySet })"
      />
      <IconButton
        :icon="mdiRestore"
        label="Take all own keys back"
        :disabled="own === 0"
        @click="session.choose({ bindings: {} })"
      />
    </template>
    <div class="all scroll" tabindex="-1" @keydown.capture="learn">
      <div class="columns">
        <section v-for="group in groups" :key="group.title">
          <h3>{{ group.title }}</h3>
          <div v-for="id in group.ids" :key="id" class="row line">
            <span class="clip spread">{{ ENTRIES[id].label }}</span>
            <UiButton
              class="mono"
              :tone="learning === id ? 'primary' : 'plain'"
              :aria-label="`Keys of ${ENTRIES[id].label}: ${actions.keysOf(id) || 'none'}`"
              :data-keys="id"
              @click="learning = learning === id ? null : id"
            >
              {{ learning === id ? 'press keys' : actions.keysOf(id) || 'none' }}
            </UiButton>
          </div>
        </section>
        <section>
          <h3>With the mouse</h3>
          <div v-for="[what, does] in GESTURES" :key="what" class="gesture">
            <strong>{{ what }}</strong>
            <span class="dim">{{ does }}</span>
          </div>
        </section>
      </div>
    </div>
    <p class="dim">
      Press a key field, then the keys you want; Backspace takes them away. They are kept with your account.
    </p>
  </DialogCard>
</template>

<style scoped>
.sets {
  flex: 0 0 130px;
}
.all {
  max-height: 62vh;
}
.columns {
  columns: 3 230px;
  column-gap: 28px;
}
section {
  break-inside: avoid;
  margin-bottom: 14px;
}
.line {
  min-height: 26px;
}
.line :deep(.ui-button) {
  min-height: 22px;
  padding: 0 8px;
}
.gesture {
  display: grid;
  margin: 4px 0;
}
</style>
