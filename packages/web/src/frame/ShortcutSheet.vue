<script setup lang="ts">
const open = defineModel<boolean>({ required: true });
const ROWS = [
  ['Space', 'Play and stop'],
  ['Left, Right', 'One frame back or on (time line in focus)'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'Undo, redo'],
  ['Delete', 'Remove what is selected'],
  ['F2, Ctrl+D', 'Rename, duplicate (set list in focus)'],
  ['Arrows on the orbit plan', 'Turn a light and step it in or out; Alt raises it'],
  ['Drag a number', 'Change it; Shift is fine, Ctrl is coarse'],
  ['Double-click a number', 'Back to its usual value'],
  ['Drag in the viewer', 'Look round; right button pans, wheel comes closer'],
  ['G, T', 'Move or turn handles'],
  ['?', 'This sheet'],
];
</script>

<template>
  <v-dialog v-model="open">
    <v-card class="pa-5">
      <h2 class="mb-3">Shortcuts</h2>
      <dl class="sheet">
        <template v-for="[keys, what] in ROWS" :key="keys">
          <dt class="mono">{{ keys }}</dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <button type="button" class="chip mt-4" style="justify-self: start" @click="open = false">Close</button>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 0;
}
.sheet dt {
  color: var(--honey);
}
.sheet dd {
  margin: 0;
}
</style>
