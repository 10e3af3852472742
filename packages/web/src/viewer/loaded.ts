import { picturesIn, type Tableau } from '@tender-orbit/core/scene';
import { modelOf, pictureOf, roomOf } from './models.ts';
import type { Loaded } from './stage-scene.ts';

/** Models and art as the viewer asks for them. */
export const LOADED: Loaded = { models: modelOf, pictures: pictureOf, rooms: roomOf };

/** How much of a tableau's art is there; a picture is drawn again when this changes. */
export function artIn(tableau: Tableau): number {
  const room = roomOf(tableau.environment.room) ? 1 : 0;
  return room + [...picturesIn(tableau).values()].filter((source) => pictureOf(source)).length;
}
