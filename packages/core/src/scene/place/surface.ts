import { cos, sin } from '../../maths/index.ts';
import type { BlockSurface, CardSurface, SetSurface, SweepSurface } from '../../document/index.ts';
import { hexToLinear, makeFinish, type Finish } from '../../finish/index.ts';
import {
  aimMatrix,
  buildBlock,
  buildCard,
  buildSweep,
  identity,
  placementMatrix,
  type Mat4,
  type Mesh,
} from '../../geometry/index.ts';
import type { TableauShape, TableauSurface } from '../tableau.ts';

/** What evaluation makes of a kind of surface. `S` is its shape in a tableau. */
interface SurfacePlacing<T extends SetSurface, S extends TableauShape> {
  shape: (surface: T) => S;
  matrix: (surface: T) => Mat4;
  mesh: (shape: S) => Mesh;
  /** What only this kind has in a tableau. */
  extras: (surface: T) => Pick<TableauSurface, 'mirror' | 'catcher'>;
}

type ShapeOf<K> = Extract<TableauShape, { kind: K }>;

const sweep: SurfacePlacing<SweepSurface, ShapeOf<'sweep'>> = {
  shape: ({ kind, width, depth, height, radius }) => ({ kind, width, depth, height, radius }),
  matrix: () => identity(),
  mesh: buildSweep,
  extras: ({ mirror, catcher }) => ({ mirror, catcher }),
};

const card: SurfacePlacing<CardSurface, ShapeOf<'card'>> = {
  shape: ({ kind, width, height }) => ({ kind, width, height }),
  matrix: ({ position, aim }) => aimMatrix(position, aim),
  mesh: ({ width, height }) => buildCard(width, height),
  extras: () => ({}),
};

const block: SurfacePlacing<BlockSurface, ShapeOf<'block'>> = {
  shape: ({ kind, form, width, height, depth, bevel, steps }) => ({ kind, form, width, height, depth, bevel, steps }),
  matrix: ({ position, turn }) => placementMatrix(position, turn, 0, 0, 1),
  mesh: buildBlock,
  extras: () => ({}),
};

const PLACING: { [K in SetSurface['kind']]: SurfacePlacing<Extract<SetSurface, { kind: K }>, ShapeOf<K>> } = {
  sweep,
  card,
  block,
};

const placingOf = (kind: SetSurface['kind']): SurfacePlacing<SetSurface, TableauShape> =>
  PLACING[kind] as unknown as SurfacePlacing<SetSurface, TableauShape>;

/** The mesh of a surface's shape. */
export function meshOfShape(shape: TableauShape): Mesh {
  return placingOf(shape.kind).mesh(shape);
}

export function surfaceMatrix(surface: SetSurface): Mat4 {
  return placingOf(surface.kind).matrix(surface);
}

export function placeSurface(surface: SetSurface): TableauSurface {
  const { id, name, rayVisibility } = surface;
  const placing = placingOf(surface.kind);
  return {
    ...{ id, name, rayVisibility },
    finish: surfaceFinish(surface),
    shape: placing.shape(surface),
    matrix: placing.matrix(surface),
    ...placing.extras(surface),
  };
}

const sided = new WeakMap<Finish, Finish>();
const plain = new Map<string, Finish>();
/** Plain looks kept: a dragged colour passes through many. */
const KEPT = 500;

/** What a surface looks like; thin ones are seen from both sides. The same look gives the same finish object. */
function surfaceFinish({ name, colour, roughness, finish }: SetSurface): Finish {
  if (finish) {
    const known = sided.get(finish) ?? { ...finish, doubleSided: true };
    sided.set(finish, known);
    return known;
  }
  const key = `${colour} ${roughness} ${name}`;
  const known =
    plain.get(key) ??
    makeFinish(name, { baseColor: hexToLinear(colour) ?? [0.5, 0.5, 0.5], roughness, doubleSided: true });
  if (plain.size >= KEPT) plain.clear();
  plain.set(key, known);
  return known;
}

/** Height of a block's upper side; of the step that is under the place. */
export function blockTop(block: BlockSurface, x: number, z: number): number {
  const base = block.position[1];
  if (block.form !== 'steps') return base + block.height;
  const a = (block.turn * Math.PI) / 180;
  const forward = sin(a) * (x - block.position[0]) + cos(a) * (z - block.position[2]);
  const share = 0.5 - forward / Math.max(1e-6, block.depth);
  const step = Math.min(block.steps, Math.max(1, Math.ceil(share * block.steps + 1e-9)));
  return base + (block.height * step) / block.steps;
}
