import { findFinish } from '../../document/index.ts';
import {
  boundsCentre,
  boundsOf,
  boundsSize,
  DEGREES,
  inverse,
  multiply,
  transformPoint,
  type Mat4,
  type Mesh,
  type Vec3,
} from '../../geometry/index.ts';
import { cos, hypot, seeded, sin } from '../../maths/index.ts';
import { pieceItem, type BrokenProduct } from '../../product/index.ts';
import { matterAt, type EvaluateContext, type ShotProgram } from '../../scene/index.ts';
import type { Body } from './body.ts';
import { bodyPart } from './bodies-of.ts';
import { apart } from './starts.ts';

export const STRIKES = ['blow', 'burst'] as const;
/** From one side, or from its middle in all directions. */
export type StrikeWay = (typeof STRIKES)[number];

/** What breaks a product. */
export interface Strike {
  way: StrikeWay;
  /** Degrees about the vertical from which it comes, and at which share of the product's height. */
  direction: number;
  height: number;
  /** Metres a second that it gives to what is near; 0: what breaks falls apart, and goes on as the product went. */
  speed: number;
  seed: number;
}

/** Where a strike hits, as a share of the product's size from there in which its force falls to a half. */
const REACH = 0.35;
/** How far what is struck flies straight on rather than away from where it was struck. */
const STRAIGHT = 0.6;
/** Spin as a share of what would roll off a piece at its speed. */
const SPIN = 0.5;
/** Shapes of pieces are told so much smaller, that hulls of what was one do not push each other apart. */
const SLACK = 0.04;

/** A product where it stands as it is struck. */
export interface StruckPlace {
  /** Its model to the set, now and a frame ago. */
  matrix: Mat4;
  before: Mat4;
  /** The parts that are seen, by their `index`: as they are shaped now. */
  meshes: ReadonlyMap<number, Mesh>;
  /** Places of its parts in the model, where they have some. */
  places: ReadonlyMap<number, Mat4>;
  /** Those a frame ago. */
  placesBefore: ReadonlyMap<number, Mat4>;
}

/** Where a product of a set is at a frame; null when it is not seen then. */
export function struckPlace(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
  id: string,
): StruckPlace | null {
  const at = (n: number): ReturnType<typeof matterAt>['instances'][number] | undefined =>
    matterAt(program, n, context).instances.find((i) => i.id === id);
  const now = at(frame);
  if (!now) return null;
  const before = (frame > 0 && at(frame - 1)) || now;
  const places = ({ parts }: typeof now): Map<number, Mat4> =>
    new Map(parts.flatMap(({ index, place }) => (place ? [[index, place.matrix] as const] : [])));
  const meshes = new Map(
    now.parts.flatMap(({ index, shell, shape }) => {
      const mesh = shell ? undefined : (shape?.mesh ?? context.meshes(now.model)?.[index]);
      return mesh ? [[index, mesh] as const] : [];
    }),
  );
  return { meshes, matrix: now.matrix, before: before.matrix, places: places(now), placesBefore: places(before) };
}

/** Where a strike hits a product, in the model's own space: on the box round its parts. */
export function strikePoint({ way, direction, height }: Strike, { matrix, meshes }: StruckPlace): Vec3 {
  const box = boundsOf([...meshes.values()]);
  const [x, , z] = boundsCentre(box);
  const y = box.min[1] + (box.max[1] - box.min[1]) * height;
  if (way === 'burst') return [x, y, z];
  const [w, , d] = boundsSize(box);
  const own = transformDirection(inverse(matrix), towards(direction));
  const length = hypot(own[0], own[2]) || 1;
  return [x + (own[0] / length) * (w / 2), y, z + (own[2] / length) * (d / 2)];
}

/** From the middle to where something comes from. */
const towards = (degrees: number): Vec3 => [sin(degrees * DEGREES), 0, cos(degrees * DEGREES)];

function transformDirection(m: Mat4, [x, y, z]: Vec3): Vec3 {
  return [m[0] * x + m[4] * y + m[8] * z, m[1] * x + m[5] * y + m[9] * z, m[2] * x + m[6] * y + m[10] * z];
}

/**
 * The pieces of a product as bodies at the moment it is struck, with the speed that it had and what the strike gives them.
 * @param near where it hits, in the model's own space.
 */
export function struckBodies(
  { product, meshes, pieces }: BrokenProduct,
  place: StruckPlace,
  strike: Strike,
  near: Vec3,
  seconds: number,
): Body[] {
  const random = seeded(strike.seed);
  const point = transformPoint(place.matrix, near);
  const size = hypot(...boundsSize(boundsOf(meshes))) * apart(place.matrix).scale;
  const into = towards(strike.direction).map((v) => -v) as Vec3;
  return pieces.map((piece): Body => {
    const own = piece.parts.map((part) => meshes[part]);
    const matrix = placed(place.matrix, place.places.get(piece.from));
    const last = placed(place.before, place.placesBefore.get(piece.from));
    const box = boundsOf(own);
    const middle = transformPoint(matrix, boundsCentre(box));
    const was = transformPoint(last, boundsCentre(box));
    const half = Math.max(1e-4, (hypot(...boundsSize(box)) * apart(matrix).scale) / 2);
    const off = middle.map((v, a) => v - point[a]) as Vec3;
    const far = hypot(...off) || 1;
    const burst = strike.way === 'burst';
    const force = burst ? 0.6 + 0.4 * random() : 1 / (1 + (far / (REACH * size)) * (far / (REACH * size)));
    const way = off.map((v, a) => (burst ? v / far : STRAIGHT * into[a] + ((1 - STRAIGHT) * v) / far)) as Vec3;
    const axis: Vec3 = [random() - 0.5, random() - 0.5, random() - 0.5];
    const round = hypot(...axis) || 1;
    const speed = strike.speed * force;
    return {
      id: pieceItem(piece),
      matrix,
      parts: piece.parts.map((part) => ({
        ...bodyPart(meshes[part], findFinish(product, product.parts[part].finish)!),
        slack: SLACK,
      })),
      motion: {
        velocity: way.map((v, a) => v * speed + (middle[a] - was[a]) / seconds) as Vec3,
        spin: axis.map((v) => ((v / round) * SPIN * speed) / half) as Vec3,
      },
    };
  });
}

const placed = (matrix: Mat4, place: Mat4 | undefined): Mat4 => (place ? multiply(matrix, place) : matrix);
