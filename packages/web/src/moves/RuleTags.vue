<script setup lang="ts">
import { changeRule, removeRule, RULES, type Rule } from '@tender-orbit/core/document';
import { useCampaign, useDocuments, useSelection } from '../stores/index.ts';
import { PickCard, openContextMenu } from '../ui/index.ts';
import { useMoveSelection } from '../things/use-move-selection.ts';

/** The rules that hang on a row, as tags in the order in which they act. */
const { rules } = defineProps<{ rules: readonly Rule[] }>();
const campaign = useCampaign();
const documents = useDocuments();
const selection = useSelection();
const moves = useMoveSelection();

function choose({ id, thing }: Rule): void {
  moves.choose('rule', id);
  selection.pick(thing);
}
function openMenu(event: MouseEvent, rule: Rule): void {
  choose(rule);
  openContextMenu(event, [
    {
      title: rule.muted ? 'Unmute' : 'Mute',
      run: () => documents.run('shot', campaign.shotId, changeRule(rule.id, { muted: !rule.muted })),
    },
    { title: 'Remove', run: () => documents.run('shot', campaign.shotId, removeRule(rule.id)) },
  ]);
}
const words = ({ name, path, kind }: Rule): string =>
  path === 'position' || path === 'aim' ? `${name}, ${path}` : name || RULES[kind].title;
</script>

<template>
  <span class="tags">
    <PickCard
      v-for="rule in rules"
      :key="rule.id"
      class="tag"
      :class="{ muted: rule.muted }"
      :label="`Rule ${rule.name}${rule.muted ? ', muted' : ''}`"
      :on="moves.is(rule.id)"
      data-test="rule-tag"
      @click="choose(rule)"
      @contextmenu="openMenu($event, rule)"
    >
      {{ words(rule) }}
    </PickCard>
  </span>
</template>

<style scoped>
.tags {
  position: absolute;
  z-index: 4;
  top: 4px;
  right: 2px;
  display: flex;
  gap: 4px;
}
.tag {
  display: inline-block;
  width: auto;
  height: 19px;
  padding: 0 8px 0 10px;
  border: 1px solid var(--line);
  border-radius: 9px 3px 3px 9px;
  background: var(--ink-2);
  color: var(--bone);
  font: inherit;
  font-size: 12px;
  line-height: 17px;
  cursor: pointer;
}
.tag.on {
  background: var(--ink-2);
  border-color: var(--coral);
  box-shadow: 0 0 0 1px var(--coral);
}
.tag.muted {
  text-decoration: line-through;
  color: var(--bone-dim);
}
</style>
