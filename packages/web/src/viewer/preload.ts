import { compile, evaluate, picturesIn } from '@tender-orbit/core/scene';
import { useCampaign } from '../stores/index.ts';
import { modelOf, panoramaFile, pictureOf } from './models.ts';

/** Asks for the models and the art of the shot in hand, so that they are there when a viewer opens. */
export function preloadShot(): void {
  const { set, shot, products, aspect } = useCampaign();
  if (!set || !shot || !set.cameras.some((c) => c.id === shot.camera)) return;
  const tableau = evaluate(compile(set, shot), 0, { products, meshes: (key) => modelOf(key)?.meshes, aspect });
  for (const { model } of tableau.instances) modelOf(model);
  for (const source of picturesIn(tableau).values()) pictureOf(source);
  const { asset } = tableau.environment.room;
  if (asset) panoramaFile(asset);
}
