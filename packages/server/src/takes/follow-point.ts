import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { inflateSync } from 'node:zlib';
import { pointSeen, pointUnder, readDepths, type DepthFrame, type PointInSet } from '@tender-orbit/core/composite';
import type { FollowedPoint } from '@tender-orbit/core/contract';
import { shotTime, takeLength, type TakeSnapshot } from '@tender-orbit/core/document';
import { inverse, transformPoint, type Mat4, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import { Problem } from '@tender-orbit/core/problem';
import { frameSpace, nearestOnParts, worldOfPoint, type Tableau, type TableauInstance } from '@tender-orbit/core/scene';
import { tableaux, type Files } from './render-frame.ts';
import { stepsOf } from './snapshot.ts';

/** A point of a take's frame, shares of the picture's height from its middle, and the frames that it is to be followed through. */
export interface FollowRequest {
  x: number;
  y: number;
  frame: number;
  from: number;
  to: number;
}

/** Finer than a pixel of any picture. */
const fine = (value: number): number => Number(value.toFixed(5));

/** Where a thing of the set is; null for what has no place of its own. */
const placeOf = ({ instances, surfaces }: Tableau, id: string): Mat4 | null =>
  [...instances, ...surfaces].find((thing) => thing.id === id)?.matrix ?? null;

/** What a point goes along with: the part of a product that it is on, or else the whole thing; null where that has no place. */
function carrierOf(
  tableau: Tableau,
  { thing, at }: PointInSet,
  meshesOf: (model: string) => readonly Mesh[],
): ((tableau: Tableau) => Vec3 | null) | null {
  const instanceIn = ({ instances }: Tableau): TableauInstance | undefined => instances.find(({ id }) => id === thing);
  const instance = instanceIn(tableau);
  const on = instance && nearestOnParts(instance, meshesOf(instance.model), at);
  if (on)
    return (then) => {
      const moved = instanceIn(then);
      return moved ? worldOfPoint(moved, meshesOf(moved.model), on) : null;
    };
  const own = placeOf(tableau, thing);
  if (!own) return null;
  const local = transformPoint(inverse(own), at);
  return (then) => {
    const place = placeOf(then, thing);
    return place && transformPoint(place, local);
  };
}

/**
 * Follows what is seen at a point of a take through its frames, as the thing or the part of a product moves that it is on, and whether
 * something hides it.
 * @param lightPath where the light of a frame lies. @throws Problem `take/no-depth`, `take/nothing-there`.
 */
export async function followPoint(
  snapshot: TakeSnapshot,
  { x, y, frame, from, to }: FollowRequest,
  lightPath: (frame: number) => string,
  files: Files,
): Promise<FollowedPoint> {
  const { name } = snapshot.shot;
  const lightOf = async (at: number): Promise<DepthFrame | null> => {
    const path = lightPath(at);
    return existsSync(path) ? readDepths(new Uint8Array(inflateSync(await readFile(path)))) : null;
  };
  const picked = await lightOf(frame);
  if (!picked?.depths)
    throw new Problem(
      'take/no-depth',
      `Frame ${frame + 1} of "${name}" was rendered without depths: render a draft or a final take of it first.`,
      name,
    );
  const point = pointUnder(picked, [x, y]);
  if (!point)
    throw new Problem('take/nothing-there', `There is nothing at this point of "${name}": press on the product.`, name);
  const { at: tableauAt, loaded, program } = await tableaux(snapshot, files, false);
  const carried = carrierOf(tableauAt(frame), point, (model) => loaded.get(model)?.meshes ?? []);
  const track: FollowedPoint['track'] = [];
  for (let at = Math.max(0, from); at <= Math.min(to, takeLength(snapshot) - 1); at++) {
    const tableau = tableauAt(at);
    const world = carried ? carried(tableau) : point.at;
    const space = frameSpace(program, shotTime(snapshot, at), tableau, stepsOf(snapshot, at).next);
    // What is not shown in a frame is not to be seen in it.
    const seen = (world && pointSeen(world, space, await lightOf(at))) ?? [0, 0, 0];
    track.push(seen.map(fine) as [number, number, number]);
  }
  return { thing: point.thing, from: Math.max(0, from), track };
}
