import { until } from '@vueuse/core';
import { compile, evaluate, picturesIn, type Tableau } from '@tender-orbit/core/scene';
import type { Mesh } from '@tender-orbit/core/geometry';
import { useCampaign } from '../stores/index.ts';
import { warmView } from './kept-views.ts';
import { artIn, LOADED } from './loaded.ts';
import { modelOf } from './models.ts';

/**
 * Asks for the models and the art of the shot in hand, so that they are there when a viewer opens, then readies a viewer for them.
 * @param pause ends when the browser has nothing else to do.
 */
export async function preloadShot(pause: () => Promise<void>): Promise<void> {
  const { set, shot, products, aspect } = useCampaign();
  if (!set || !shot || !set.cameras.some((c) => c.id === shot.camera)) return;
  const program = compile(set, shot);
  /** The first frame once all of it has been read; asking for it starts that. */
  const whole = (): Tableau | null => {
    let missing = false;
    const meshes = (key: string): readonly Mesh[] | undefined => {
      const model = modelOf(key);
      missing ||= !model;
      return model?.meshes;
    };
    const tableau = evaluate(program, 0, { products, meshes, aspect });
    const all = artIn(tableau) > picturesIn(tableau).size;
    return all && !missing ? tableau : null;
  };
  const tableau = await until(whole).toMatch((found) => found !== null);
  const picture = { tableau: tableau!, clay: false, selected: '', handles: null, throughCamera: true };
  await warmView({ ...picture, loaded: LOADED, domain: null }, pause);
}
