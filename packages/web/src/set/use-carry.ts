import { addRule, findThing, freshName, namesOf, RULES, type Point } from '@tender-orbit/core/document';
import { useCampaign, useDocuments, useSelection, useStage } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';

/** Puts a null in the middle of what is chosen, which carries it from then on: a group with a pivot. */
export function useCarry(): { carry: () => void; movable: () => string[] } {
  const campaign = useCampaign();
  const documents = useDocuments();
  const selection = useSelection();
  const stage = useStage();
  const placeOf = (id: string): Point | undefined => {
    const found = stage.posed && findThing(stage.posed, id);
    return found && 'position' in found.thing ? found.thing.position : undefined;
  };
  const movable = (): string[] => selection.all.filter((id) => placeOf(id));
  function carry(): void {
    const ids = movable();
    const places = ids.map((id) => placeOf(id)!);
    if (places.length === 0) return;
    const middle = [0, 1, 2].map((axis) => {
      const along = places.map((place) => place[axis]);
      // On the ground under them, so that they turn and grow about where they stand.
      return axis === 1 ? Math.min(...along) : (Math.min(...along) + Math.max(...along)) / 2;
    }) as Point;
    const gesture = `carry-${Date.now()}`;
    const pivot = stage.addNull(middle, gesture);
    for (const thing of ids) {
      const name = freshName(namesOf(campaign.shot?.rules ?? []), RULES.parent.title);
      const rule = { id: freshId('rule'), name, thing, path: '', muted: false };
      const does = { kind: 'parent', target: pivot, start: 0, end: 200000 } as const;
      documents.run('shot', campaign.shotId, addRule({ ...rule, ...does }), gesture);
    }
  }
  return { carry, movable };
}
