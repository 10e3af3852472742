import type { SmokeEffect } from '../../document/index.ts';
import { hexToLinear } from '../../finish/index.ts';
import type { SimulatedSmoke } from '../effects.ts';
import type { TableauVolume } from '../tableau.ts';

/** Simulated smoke as the volume that is drawn and traced. */
export function placeSmoke(effect: SmokeEffect, { size, cell, origin, density, key }: SimulatedSmoke): TableauVolume {
  const [x, y, z] = size.map((n) => n * cell);
  const colour = hexToLinear(effect.colour) ?? [1, 1, 1];
  return {
    matrix: [x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, ...origin, 1],
    extinction: effect.thickness,
    colour: colour.map((c) => c * effect.albedo) as TableauVolume['colour'],
    phase: effect.anisotropy,
    grid: { size, density, key },
  };
}
