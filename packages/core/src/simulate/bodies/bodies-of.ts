import type { Finish } from '../../finish/index.ts';
import type { Mesh } from '../../geometry/index.ts';
import { matterAt, meshOfShape, surfaceTraits, type EvaluateContext, type ShotProgram } from '../../scene/index.ts';
import type { Body, BodyPart } from './drop.ts';

/** Kilograms per cubic metre of what finishes stand for: metal, glass and liquids, anything else. */
const DENSITIES = { metal: 7000, glass: 2500, other: 900 } as const;

function densityOf({ metallic, transmission }: Finish): number {
  if (metallic > 0.5) return DENSITIES.metal;
  return transmission > 0.5 ? DENSITIES.glass : DENSITIES.other;
}

/**
 * What of a set falls and what it falls on, as things stand at a frame. Backdrops are left out: the floor is level.
 * @param falling ids of products.
 */
export function bodiesOf(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
  falling: readonly string[],
): { falling: Body[]; still: Body[] } {
  const { instances, surfaces } = matterAt(program, frame, context);
  const parts = (instance: (typeof instances)[number]): BodyPart[] =>
    instance.parts.flatMap(({ index, shell, shape, place, finish }): BodyPart[] => {
      const mesh: Mesh | undefined = shape?.mesh ?? context.meshes(instance.model)?.[index];
      return shell || !mesh ? [] : [{ mesh, place: place?.matrix, density: densityOf(finish) }];
    });
  const bodies = instances.map((i): Body => ({ id: i.id, parts: parts(i), matrix: i.matrix }));
  const stands = surfaces
    .filter(({ shape }) => surfaceTraits(shape).body)
    .map(({ id, shape, matrix }): Body => {
      const part = { mesh: meshOfShape(shape), density: DENSITIES.other };
      return { id, matrix, parts: [part] };
    });
  // In the order in which they were named: the first one falls from the least height.
  const named = falling.flatMap((id) => bodies.find((b) => b.id === id) ?? []);
  return { falling: named, still: [...bodies.filter((b) => !falling.includes(b.id)), ...stands] };
}
