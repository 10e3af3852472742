import { computed, type ComputedRef } from 'vue';
import { compile, evaluate, type Tableau } from '@tender-orbit/core/scene';
import { useCampaign, usePlayhead, useSelection, useStage } from '../stores/index.ts';
import { useEffects } from '../effects/index.ts';
import { modelOf } from './models.ts';

/** The shot in hand at the playhead, evaluated by the same function that takes are made with. Null while it cannot be. */
export function useTableau(): ComputedRef<Tableau | null> {
  const campaign = useCampaign();
  const playhead = usePlayhead();
  const selection = useSelection();
  const stage = useStage();
  const effects = useEffects();
  return computed(() => {
    const { set, shot, products, aspect } = campaign;
    if (!set || !shot || !set.cameras.some((c) => c.id === shot.camera)) return null;
    const tableau = evaluate(compile(set, shot), playhead.frame, {
      products,
      meshes: (hash) => modelOf(hash)?.meshes,
      aspect,
      simulated: effects.simulatedAt,
    });
    // "Only this light" and "Isolate" are for looking; they never reach a take.
    const lit = stage.only ? { ...tableau, lights: tableau.lights.filter((l) => l.id === stage.only) } : tableau;
    if (selection.isolated.length === 0) return lit;
    const shown = (t: { id: string }): boolean => selection.isolated.includes(t.id);
    return { ...lit, instances: lit.instances.filter(shown), surfaces: lit.surfaces.filter(shown) };
  });
}
