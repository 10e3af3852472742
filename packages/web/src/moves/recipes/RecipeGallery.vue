<script setup lang="ts">
import {
  changeLength,
  clearMoves,
  movesIn,
  RECIPE_KINDS,
  recipeFacts,
  type RecipeKind,
} from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { useFinds, useHandlers } from '../../actions/index.ts';
import { useCampaign, useDocuments } from '../../stores/index.ts';
import { CheckField, NumberField, PickCard, UiButton } from '../../ui/index.ts';
import ShotMusic from '../ShotMusic.vue';
import EffectShelf from './EffectShelf.vue';
import RecipeThumb from './RecipeThumb.vue';
import { useRecipes } from './use-recipes.ts';

const campaign = useCampaign();
const documents = useDocuments();
const { onBeats, hasBeats, apply } = useRecipes();
/** The one that is pointed at, or has the focus. */
const pointed = ref<RecipeKind | null>(null);
const GROUPS = [
  { title: 'Product', role: ['product'] },
  { title: 'Camera', role: ['camera'] },
  { title: 'Light and flag', role: ['light', 'card'] },
].map(({ title, role }) => ({ title, kinds: RECIPE_KINDS.filter((kind) => role.includes(recipeFacts(kind).role)) }));

const anything = computed(() => {
  const { shot } = campaign;
  return shot !== undefined && movesIn(shot).length + shot.recipes.length + shot.rules.length + shot.paths.length > 0;
});
function setLength(frames: number, gesture: string): void {
  documents.run('shot', campaign.shotId, changeLength(frames), gesture);
}
useHandlers({
  'moves.turntable': () => apply('turntable'),
  'moves.push-in': () => apply('push-in'),
  'moves.clear': {
    run: () => void documents.run('shot', campaign.shotId, clearMoves()),
    enabled: () => anything.value,
  },
});
useFinds(() =>
  // Two of them are actions, which can have keys of their own.
  RECIPE_KINDS.filter((kind) => kind !== 'turntable' && kind !== 'push-in').map((kind) => ({
    ...{ title: recipeFacts(kind).title, hint: 'move recipe' },
    run: () => apply(kind),
  })),
);
</script>

<template>
  <section class="card recipes" aria-label="Move recipes" data-test="recipes">
    <div class="row head">
      <h2>Recipes</h2>
      <span class="spread" />
      <CheckField v-if="hasBeats()" label="On beats" :value="onBeats" @change="(on) => (onBeats = on)" />
    </div>
    <div class="scroll shelf">
      <template v-for="group in GROUPS" :key="group.title">
        <h3>{{ group.title }}</h3>
        <div class="grid">
          <PickCard
            v-for="kind in group.kinds"
            :key="kind"
            class="recipe"
            :tip="recipeFacts(kind).says"
            :data-test="`recipe-${kind}`"
            @click="apply(kind)"
            @pointerenter="pointed = kind"
            @pointerleave="pointed = null"
            @focus="pointed = kind"
            @blur="pointed = null"
          >
            <RecipeThumb :kind="kind" :moving="pointed === kind" />
            <span class="clip">{{ recipeFacts(kind).title }}</span>
          </PickCard>
        </div>
      </template>
      <h3>Effects</h3>
      <EffectShelf />
    </div>
    <div class="foot">
      <NumberField
        label="Shot length"
        unit="f"
        :value="campaign.shot?.length ?? 1"
        :min="1"
        :max="100000"
        :step="1"
        @change="setLength"
      />
      <ShotMusic />
      <UiButton class="clear" :disabled="!anything" @click="documents.run('shot', campaign.shotId, clearMoves())">
        Clear all moves
      </UiButton>
    </div>
  </section>
</template>

<style scoped>
.recipes {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-height: 0;
  height: 100%;
}
.head {
  padding: 8px 10px 2px 12px;
}
.shelf {
  padding: 0 8px 8px;
}
h3 {
  margin: 6px 4px 4px;
  font-size: 12px;
  font-weight: 600;
  color: var(--bone-dim);
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}
.recipe {
  display: grid;
  gap: 3px;
  padding: 3px 3px 4px;
  font-size: 12px;
  text-align: left;
}
.recipe .clip {
  padding: 0 3px;
}
.foot {
  display: grid;
  gap: 4px;
  padding: 6px 10px 8px;
  border-top: 1px solid var(--line);
}
.clear {
  justify-self: start;
}
</style>
