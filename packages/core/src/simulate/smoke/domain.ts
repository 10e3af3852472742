import type { EffectLevel, SmokeEffect } from '../../document/index.ts';
import type { Vec3 } from '../../geometry/index.ts';
import { Problem } from '../../problem/index.ts';

/** The cells of a smoke domain: a box in the set cut into cubes. */
export interface SmokeDomain {
  /** Whole eights along x, y, z, as the solver takes them. */
  size: Vec3;
  /** Metres. */
  cell: number;
  /** The corner of the first cell with the least x, y and z, metres. */
  origin: Vec3;
}

/** What a domain asks for, so that it can be said beforehand. */
export interface DomainCost {
  cells: number;
  /** While it is simulated. */
  bytes: number;
  /** Of a stored frame before compression. */
  frameBytes: number;
}

/** Cells that a machine of the usual kind takes. */
export const MOST_CELLS = 16_000_000;
/** Floats that the solver keeps for each cell, coarse levels of the pressure included. */
const FLOATS = 33;
const BLOCK = 8;

const across = (metres: number, cell: number): number => Math.max(2, Math.ceil(metres / cell / BLOCK - 1e-9)) * BLOCK;

/** The cells of an effect at a level. The box grows to whole eights of cells, on all sides alike but the floor's. */
export function domainOf(effect: SmokeEffect, level: EffectLevel): SmokeDomain {
  const cell = effect.cells[level];
  const size = [effect.width, effect.height, effect.depth].map((metres) => across(metres, cell)) as Vec3;
  const [x, y, z] = effect.position;
  return { size, cell, origin: [x - (size[0] * cell) / 2, y, z - (size[2] * cell) / 2] };
}

/** Bytes of a stored cell: density, heat, and its share of ways; its colour besides where smoke has colours. */
const STORED = { plain: 3.6, tint: 3 };

/** What a domain costs. @param tinted whether its smoke has colours. */
export function costOf({ size: [nx, ny, nz] }: SmokeDomain, tinted = false): DomainCost {
  const cells = nx * ny * nz;
  const floats = FLOATS + (tinted ? 3 : 0);
  return {
    cells,
    bytes: (nx + 8) * (ny + 2) * (nz + 2) * floats * 4,
    frameBytes: Math.ceil(cells * (STORED.plain + (tinted ? STORED.tint : 0))),
  };
}

/** @throws Problem `effect/too-fine` when the domain has more cells than a machine takes. */
export function checkDomain(effect: SmokeEffect, level: EffectLevel): SmokeDomain {
  const domain = domainOf(effect, level);
  const { cells, bytes } = costOf(domain);
  if (cells > MOST_CELLS)
    throw new Problem(
      'effect/too-fine',
      `"${effect.name}" at ${level} would be ${Math.round(cells / 1e6)} million cells and ${Math.ceil(bytes / 1e9)} GB of memory; ` +
        `${MOST_CELLS / 1e6} million is the most. Make its cells larger or its domain smaller.`,
      effect.name,
    );
  return domain;
}
