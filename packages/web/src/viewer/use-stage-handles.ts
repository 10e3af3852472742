import { computed, type ComputedRef, type Ref } from 'vue';
import { findThing, propertyOf, type Point } from '@tender-orbit/core/document';
import type { Tableau } from '@tender-orbit/core/scene';
import { usePlayhead, useStage } from '../stores/index.ts';
import type { StageHandles } from './stage-view.ts';

/**
 * The handles in the picture: of what is chosen, where it can be moved, and turned when it can be.
 * @param through whether the picture is seen through the camera, which then has none.
 */
export function useStageHandles(
  tableau: Ref<Tableau | null>,
  mode: Ref<'move' | 'turn'>,
  through: Ref<boolean>,
): ComputedRef<StageHandles | null> {
  const playhead = usePlayhead();
  const stage = useStage();
  return computed(() => {
    const set = stage.posed;
    const id = stage.selected;
    if (!set || !id || playhead.playing) return null;
    const found = findThing(set, id);
    if (!found || !propertyOf(found, 'position') || (found.role === 'camera' && through.value)) return null;
    const { position, turn } = found.thing as { position: Point; turn?: number };
    // A seated product is drawn where it stands; its own height counts from there.
    const at = tableau.value?.instances.find((i) => i.id === id)?.matrix;
    return {
      id,
      mode: turn === undefined ? ('move' as const) : mode.value,
      position: at ? ([at[12], position[1], at[14]] as Point) : position,
      turn: turn ?? 0,
    };
  });
}
