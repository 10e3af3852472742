import { computed, ref, type ComputedRef } from 'vue';
import type { AppliedRecipe, MovePath, Rule } from '@tender-orbit/core/document';
import { useCampaign } from '../stores/index.ts';

/** What of a shot's moves besides keys is in hand. */
export type ChosenMove = { kind: 'recipe' | 'rule' | 'path'; id: string };

const chosen = ref<ChosenMove | null>(null);

/** The recipe, rule or path in hand; the same wherever it is asked for. What is gone is no longer in hand. */
export function useMoveSelection(): {
  recipe: ComputedRef<AppliedRecipe | undefined>;
  rule: ComputedRef<Rule | undefined>;
  path: ComputedRef<MovePath | undefined>;
  is: (id: string) => boolean;
  choose: (kind: ChosenMove['kind'], id: string) => void;
  clear: () => void;
} {
  const campaign = useCampaign();
  const idOf = (kind: ChosenMove['kind']): string => (chosen.value?.kind === kind ? chosen.value.id : '');
  return {
    recipe: computed(() => campaign.shot?.recipes.find((r) => r.id === idOf('recipe'))),
    rule: computed(() => campaign.shot?.rules.find((r) => r.id === idOf('rule'))),
    path: computed(() => campaign.shot?.paths.find((p) => p.id === idOf('path'))),
    is: (id) => chosen.value?.id === id,
    choose: (kind, id) => void (chosen.value = { kind, id }),
    clear: () => void (chosen.value = null),
  };
}
