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

/** What a surface is to the things on the set. */
export interface SurfaceTraits {
  /** Stands round the whole set: it is in no selection's box and casts no shadow of its own while staging. */
  backdrop: boolean;
  /** Things may lie on it where it reaches, without being put on it. */
  ground: boolean;
  /** A body that stands among the products. */
  body: boolean;
  /** Products that are put where it is stand on it. */
  table: boolean;
  /** Takes up room that nothing else can have. */
  obstacle: boolean;
}

const NOTHING: SurfaceTraits = { backdrop: false, ground: false, body: false, table: false, obstacle: false };

/** What evaluation makes of a kind of surface. `S` is its shape in a tableau. */
interface SurfacePlacing<T extends SetSurface, S extends TableauShape> {
  shape: (surface: T) => S;
  matrix: (surface: T) => Mat4;
  mesh: (shape: S) => Mesh;
  traits: (shape: S) => SurfaceTraits;
  /** Height of its upper side at a place on the floor, metres; null for what nothing stands on. */
  top: (surface: T, x: number, z: number) => number | null;
  /** What only this kind has in a tableau. */
  extras: (surface: T) => Pick<TableauSurface, 'mirror' | 'catcher'>;
}

type ShapeOf<K> = Extract<TableauShape, { kind: K }>;

const sweep: SurfacePlacing<SweepSurface, ShapeOf<'sweep'>> = {
  shape: ({ kind, width, depth, height, radius }) => ({ kind, width, depth, height, radius }),
  matrix: () => identity(),
  mesh: buildSweep,
  traits: () => ({ ...NOTHING, backdrop: true, ground: true }),
  top: () => null,
  extras: ({ mirror, catcher }) => ({ mirror, catcher }),
};

const card: SurfacePlacing<CardSurface, ShapeOf<'card'>> = {
  shape: ({ kind, width, height }) => ({ kind, width, height }),
  matrix: ({ position, aim, roll }) => aimMatrix(position, aim, roll),
  mesh: ({ width, height }) => buildCard(width, height),
  traits: () => NOTHING,
  top: () => null,
  extras: () => ({}),
};

const block: SurfacePlacing<BlockSurface, ShapeOf<'block'>> = {
  shape: ({ kind, form, width, height, depth, bevel, steps }) => ({ kind, form, width, height, depth, bevel, steps }),
  matrix: ({ position, turn }) => placementMatrix(position, turn, 0, 0, 1),
  mesh: buildBlock,
  traits: ({ form }) => ({
    ...NOTHING,
    ground: form === 'floor',
    body: form !== 'floor' && form !== 'wall',
    table: form === 'tabletop',
    obstacle: form !== 'tabletop',
  }),
  top: blockTop,
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

/** The mesh of a surface in its own space. */
export function surfaceMesh(surface: SetSurface): Mesh {
  const placing = placingOf(surface.kind);
  return placing.mesh(placing.shape(surface));
}

/** What a surface, or its shape in a tableau, is to the things on the set. */
export function surfaceTraits(surface: SetSurface | TableauShape): SurfaceTraits {
  return placingOf(surface.kind).traits(surface as TableauShape);
}

/** Height of a surface's upper side at a place on the floor, metres; null for what nothing stands on. */
export function surfaceTop(surface: SetSurface, x: number, z: number): number | null {
  return placingOf(surface.kind).top(surface, x, z);
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
function blockTop(block: BlockSurface, x: number, z: number): number {
  const base = block.position[1];
  if (block.form !== 'steps') return base + block.height;
  const a = (block.turn * Math.PI) / 180;
  const forward = sin(a) * (x - block.position[0]) + cos(a) * (z - block.position[2]);
  const share = 0.5 - forward / Math.max(1e-6, block.depth);
  const step = Math.min(block.steps, Math.max(1, Math.ceil(share * block.steps + 1e-9)));
  return base + (block.height * step) / block.steps;
}
