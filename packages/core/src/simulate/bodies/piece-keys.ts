import { OWN, type Key, type SetProduct, type ShotDocument, type Track } from '../../document/index.ts';
import {
  boundsCentre,
  boundsOf,
  inverse,
  multiply,
  transformPoint,
  type Mat4,
  type Mesh,
  type Vec3,
} from '../../geometry/index.ts';
import { anglesOf, matrixOf } from '../../motion/index.ts';
import { pieceItem, type BrokenProduct, type ProductPiece } from '../../product/index.ts';
import type { BodyMotion, BodyPose } from './body.ts';
import { apart } from './starts.ts';
import type { StruckPlace } from './strike.ts';
import { angleKeys, placeKeys } from './to-keys.ts';

/** Keys of pieces closer to a straight line than this are left out, since there are so many: metres, degrees. */
const CLOSE = { place: 0.0003, angle: 0.6 };

/** A placed product in pieces where the whole one was, seen from the strike on alone; its product is for the caller to fill in. */
export function piecesOnSet(
  whole: SetProduct,
  id: string,
  name: string,
  { matrix }: StruckPlace,
  metres: number,
): SetProduct {
  const { scale, rotation, position } = apart(matrix);
  const { turn, tilt, roll } = anglesOf(matrixOf(rotation));
  return {
    ...whole,
    ...{ id, name, product: '', position, turn, tilt, roll, scale: scale / metres },
    ...{ seated: false, standsOn: '', visible: false },
  };
}

/**
 * What pieces did as keys of the shot: own values of the parts of the product in pieces, and both it and the whole one shown when they are
 * there.
 * @param whole and @param broken ids of the two on the set. @param metres in one of the model's numbers.
 */
export function pieceTracks(
  { frames, rests }: BodyMotion,
  { meshes, pieces }: BrokenProduct,
  { matrix }: StruckPlace,
  { whole, broken, frame, metres }: { whole: string; broken: string; frame: number; metres: number },
  shot: Pick<ShotDocument, 'length' | 'tracks'>,
): Track[] {
  const back = inverse(matrix);
  // A value is what the first key says before that one too.
  const first = Math.min(0, frame) - 1;
  const seen = [...frames.values()][0].slice(0, Math.max(0, Math.min(rests, shot.length - frame) + 1)).length;
  return [
    shown(
      shot,
      whole,
      [
        { frame: first, value: true },
        { frame, value: false },
      ],
      frame,
    ),
    shown(
      shot,
      broken,
      [
        { frame: first, value: false },
        { frame, value: true },
      ],
      frame,
    ),
    ...pieces.flatMap((piece): Track[] => {
      const poses = (frames.get(pieceItem(piece)) ?? []).slice(0, seen);
      const { shifts, angles } = inModel(poses, piece, meshes, matrix, back);
      const path = `${OWN}parts.${pieceItem(piece)}`;
      return [
        ...[0, 1, 2].map((axis) => ({
          ...{ thing: broken, path: `${path}.shift.${axis}` },
          keys: placeKeys(
            shifts.map((shift) => shift[axis] * metres),
            frame,
            CLOSE.place,
          ),
        })),
        ...angleKeys(angles, frame, CLOSE.angle).map(({ name, keys }) => ({
          thing: broken,
          path: `${path}.${name}`,
          keys,
        })),
      ].filter(({ keys }) => keys.some((k) => k.value !== 0));
    }),
  ];
}

const held = (key: { frame: number; value: boolean }): Key => ({ ...key, ease: 'hold' });

/** When a thing is shown: as its keys say until the strike, then as it says. */
function shown(
  { tracks }: Pick<ShotDocument, 'tracks'>,
  thing: string,
  keys: Array<{ frame: number; value: boolean }>,
  strike: number,
): Track {
  const before = tracks.find((t) => t.thing === thing && t.path === 'visible')?.keys.filter((k) => k.frame < strike);
  return {
    ...{ thing, path: 'visible' },
    keys: [...(before?.length ? before : keys.slice(0, 1).map(held)), ...keys.slice(1).map(held)],
  };
}

/** Poses as what parts are shifted by, in the model's numbers, and turned about the middle of the box round them. */
function inModel(
  poses: readonly BodyPose[],
  { parts }: ProductPiece,
  meshes: readonly Mesh[],
  matrix: Mat4,
  back: Mat4,
): { shifts: Vec3[]; angles: Array<ReturnType<typeof anglesOf>> } {
  const pivot = boundsCentre(boundsOf(parts.map((part) => meshes[part])));
  const { scale } = apart(matrix);
  const own = poses.map(({ position, rotation }): Mat4 => {
    const turn = matrixOf(rotation);
    const sized = turn.map((v, i) => (i < 12 && i % 4 < 3 ? v * scale : v)) as Mat4;
    [sized[12], sized[13], sized[14]] = position;
    return multiply(back, sized);
  });
  return {
    shifts: own.map((m) => transformPoint(m, pivot).map((v, a) => v - pivot[a]) as Vec3),
    angles: own.map(anglesOf),
  };
}
