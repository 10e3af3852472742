import type { Finish } from '../../finish/index.ts';
import { boundsCentre, boundsOf, type Mat4, type Mesh, type Vec3 } from '../../geometry/index.ts';
import {
  matterAt,
  meshOfShape,
  surfaceTraits,
  type EvaluateContext,
  type Matter,
  type ShotProgram,
} from '../../scene/index.ts';
import type { Body, BodyHinge, BodyPart } from './body.ts';

/** Kilograms per cubic metre of what finishes stand for: metal, glass and liquids, anything else. */
const DENSITIES = { metal: 7000, glass: 2500, other: 900 } as const;

function densityOf({ metallic, transmission }: Finish): number {
  if (metallic > 0.5) return DENSITIES.metal;
  return transmission > 0.5 ? DENSITIES.glass : DENSITIES.other;
}

/** How a finish grips and bounces beside what is asked for: smooth things slide, what is hard gives more back. */
function touchOf({ metallic, transmission, roughness }: Finish): Pick<BodyPart, 'grip' | 'spring'> {
  const hard = metallic > 0.5 || transmission > 0.5;
  return { grip: 0.7 + 0.6 * roughness, spring: hard ? 1.2 : 0.9 };
}

/** A mesh of a finish, as heavy and as smooth as that makes it. */
export const bodyPart = (mesh: Mesh, finish: Finish): BodyPart => ({
  ...{ mesh, density: densityOf(finish) },
  ...touchOf(finish),
});

/**
 * What of a set falls and what it falls on, as things stand at a frame; what moves by keys goes on from there. Backdrops are left out: the
 * floor is level.
 * @param falling ids of products.
 */
export function bodiesOf(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
  falling: readonly string[],
): { falling: Body[]; still: Body[] } {
  const matters = new Map<number, Matter>();
  const at = (n: number): Matter => {
    let matter = matters.get(n);
    if (!matter) matters.set(n, (matter = matterAt(program, frame + n, context)));
    return matter;
  };
  const { instances, surfaces } = at(0);
  /** Where a thing goes, when it goes anywhere. */
  const going = (id: string, matrix: Mat4): Body['matrixAt'] =>
    program.moving.has(id)
      ? (n) => [...at(n).instances, ...at(n).surfaces].find((thing) => thing.id === id)?.matrix ?? matrix
      : undefined;
  const parts = (instance: (typeof instances)[number]): BodyPart[] =>
    instance.parts.flatMap(({ index, shell, shape, place, finish }): BodyPart[] => {
      const mesh: Mesh | undefined = shape?.mesh ?? context.meshes(instance.model)?.[index];
      if (shell || !mesh) return [];
      return [{ ...bodyPart(mesh, finish), part: index, place: place?.matrix }];
    });
  const bodies = instances.map((i): Body => ({ id: i.id, parts: parts(i), matrix: i.matrix }));
  const stands = surfaces
    .filter(({ shape }) => surfaceTraits(shape).body)
    .map(({ id, shape, matrix, finish }): Body => {
      const part = { ...bodyPart(meshOfShape(shape), finish), density: DENSITIES.other };
      return { id, matrix, matrixAt: going(id, matrix), parts: [part] };
    });
  const standing = bodies
    .filter((b) => !falling.includes(b.id))
    .map((b): Body => ({ ...b, matrixAt: going(b.id, b.matrix) }));
  // In the order in which they were named: the first one falls from the least height.
  const named = falling.flatMap((id) => bodies.find((b) => b.id === id) ?? []);
  return { falling: named, still: [...standing, ...stands] };
}

export const HINGE_SIDES = ['back', 'front', 'left', 'right'] as const;
/** At which lower edge of the box round them parts are hinged. */
export type HingeSide = (typeof HINGE_SIDES)[number];

/** A hinge of parts of a body: they open outwards, away from the edge, by positive degrees. Undefined when it has no such parts. */
export function hingeAt(
  { id, parts }: Body,
  side: HingeSide,
  numbers: readonly number[],
  limits: Pick<BodyHinge, 'from' | 'to' | 'start'>,
): BodyHinge | undefined {
  const meshes = parts.filter(({ part }) => numbers.includes(part ?? -1)).map(({ mesh }) => mesh);
  if (meshes.length === 0) return undefined;
  const box = boundsOf(meshes);
  const [x, , z] = boundsCentre(box);
  const [point, axis] = (
    {
      back: [
        [x, box.min[1], box.min[2]],
        [-1, 0, 0],
      ],
      front: [
        [x, box.min[1], box.max[2]],
        [1, 0, 0],
      ],
      left: [
        [box.min[0], box.min[1], z],
        [0, 0, 1],
      ],
      right: [
        [box.max[0], box.min[1], z],
        [0, 0, -1],
      ],
    } as Record<HingeSide, [Vec3, Vec3]>
  )[side];
  return { body: id, parts: numbers, point, axis, ...limits };
}

/** The own value that a hinge turns, and which way it counts there: both are right-handed. */
export function hingeTrack(side: HingeSide): { name: 'tilt' | 'roll'; sign: 1 | -1 } {
  return {
    back: { name: 'tilt', sign: -1 } as const,
    front: { name: 'tilt', sign: 1 } as const,
    left: { name: 'roll', sign: 1 } as const,
    right: { name: 'roll', sign: -1 } as const,
  }[side];
}
