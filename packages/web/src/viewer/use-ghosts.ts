import { compile, evaluate } from '@tender-orbit/core/scene';
import { useLocalStorage } from '@vueuse/core';
import { computed, type ComputedRef, type Ref } from 'vue';
import { useCampaign, usePlayhead } from '../stores/index.ts';
import { modelOf } from './models.ts';
import type { Ghost } from './stage-ghosts.ts';

/** Ghosts on each side of the playhead. */
const EACH = 3;
const NONE: readonly Ghost[] = [];
/** Frames between ghosts; 0: none. */
const apart = useLocalStorage('tender-orbit:ghosts', 0);

export const useGhostSteps = (): Ref<number> => apart;

/** Where moving products are at frames round the playhead, where they are elsewhere than at it. */
export function useGhosts(wanted: () => boolean): ComputedRef<readonly Ghost[]> {
  const campaign = useCampaign();
  const playhead = usePlayhead();
  return computed(() => {
    const { set, shot, products, aspect } = campaign;
    const camera = set?.cameras.some((c) => c.id === shot?.camera);
    if (!wanted() || apart.value === 0 || playhead.playing || !set || !shot || !camera) return NONE;
    const program = compile(set, shot);
    if (program.moving.size === 0) return NONE;
    const context = { products, meshes: (key: string) => modelOf(key)?.meshes, aspect };
    const at = (frame: number) => evaluate(program, frame, context).instances.filter((i) => program.moving.has(i.id));
    const here = new Map(at(playhead.frame).map((i) => [i.id, i]));
    const ghosts: Ghost[] = [];
    for (const way of [-1, 1])
      for (let n = EACH; n > 0; n--) {
        const frame = playhead.frame + way * n * apart.value;
        if (frame < 0 || frame >= shot.length) continue;
        for (const instance of at(frame)) {
          const now = here.get(instance.id);
          const still = now?.matrix.every((v, i) => Math.abs(v - instance.matrix[i]) < 1e-6);
          if (still && now?.parts === instance.parts) continue;
          ghosts.push({ instance, later: way > 0, strength: 1 - (n - 1) / (EACH + 1) });
        }
      }
    return ghosts.length > 0 ? ghosts : NONE;
  });
}
