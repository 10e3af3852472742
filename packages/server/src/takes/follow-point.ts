import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { inflateSync } from 'node:zlib';
import { pointSeen, pointUnder, readDepths, type DepthFrame } from '@tender-orbit/core/composite';
import type { FollowedPoint } from '@tender-orbit/core/contract';
import { shotTime, takeLength, type TakeSnapshot } from '@tender-orbit/core/document';
import { inverse, transformPoint, type Mat4, type Vec3 } from '@tender-orbit/core/geometry';
import { Problem } from '@tender-orbit/core/problem';
import { frameSpace, type Tableau } from '@tender-orbit/core/scene';
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

/**
 * Follows what is seen at a point of a take through its frames, as the thing moves that it is on, and whether something hides it.
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
  const { at: tableauAt, program } = await tableaux(snapshot, files, false);
  const own = placeOf(tableauAt(frame), point.thing);
  const local = own && transformPoint(inverse(own), point.at);
  const track: FollowedPoint['track'] = [];
  for (let at = Math.max(0, from); at <= Math.min(to, takeLength(snapshot) - 1); at++) {
    const tableau = tableauAt(at);
    const place = placeOf(tableau, point.thing);
    const world: Vec3 = local && place ? transformPoint(place, local) : point.at;
    const space = frameSpace(program, shotTime(snapshot, at), tableau, stepsOf(snapshot, at).next);
    const seen = pointSeen(world, space, await lightOf(at)) ?? [0, 0, 0];
    track.push(seen.map(fine) as [number, number, number]);
  }
  return { thing: point.thing, from: Math.max(0, from), track };
}
