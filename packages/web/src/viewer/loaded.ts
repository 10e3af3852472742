import { picturesIn, type Tableau } from '@tender-orbit/core/scene';
import { modelOf, panoramaFile, pictureOf } from './models.ts';
import type { Loaded } from './stage-scene.ts';

/** Models and art as the viewer asks for them. */
export const LOADED: Loaded = { models: modelOf, pictures: pictureOf, panoramas: panoramaFile };

/** How much of a tableau's art is there; a picture is drawn again when this changes. */
export function artIn(tableau: Tableau): number {
  const { asset } = tableau.environment.room;
  const room = asset && panoramaFile(asset) ? 1 : 0;
  return room + [...picturesIn(tableau).values()].filter((source) => pictureOf(source)).length;
}
