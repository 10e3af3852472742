import type { SmokeEffect } from '../../document/index.ts';
import { hexToLinear } from '../../finish/index.ts';
import { pow } from '../../maths/index.ts';
import type { SimulatedSmoke } from '../effects.ts';
import type { TableauVolume } from '../tableau.ts';

/** Simulated smoke as the volume that is drawn and traced. */
export function placeSmoke(effect: SmokeEffect, smoke: SimulatedSmoke): TableauVolume {
  const { size, cell, origin, key, flow } = smoke;
  const [x, y, z] = size.map((n) => n * cell);
  const colour = hexToLinear(effect.colour) ?? [1, 1, 1];
  const { density, colours } = shownSmoke(effect, smoke);
  const detail = effect.detail > 0 && flow ? { amount: effect.detail, size: effect.detailSize, flow } : undefined;
  return {
    matrix: [x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, ...origin, 1],
    extinction: effect.thickness,
    // Colours that differ from cell to cell hold all of it.
    colour: colour.map((c) => (colours ? 1 : c) * effect.albedo) as TableauVolume['colour'],
    phase: effect.anisotropy,
    grid: { size, density, key, colours, detail },
  };
}

type Shown = Pick<NonNullable<TableauVolume['grid']>, 'density' | 'colours'>;
const known = new WeakMap<Float32Array, { look: string; shown: Shown }>();

/** Density by its curve, and colours of cells where they differ: the same arrays as long as smoke and look are the same. */
function shownSmoke(effect: SmokeEffect, smoke: SimulatedSmoke): Shown {
  const { contrast, tint, colour, otherColour, tintDensity, tintHeat } = effect;
  const look = JSON.stringify([contrast, tint, colour, otherColour, tintDensity, tintHeat]);
  const before = known.get(smoke.density);
  if (before?.look === look) return before.shown;
  const density = contrast === 1 ? smoke.density : smoke.density.map((v) => (v > 0 ? pow(v, contrast) : 0));
  const shown = { density, colours: coloursOf(effect, smoke) };
  known.set(smoke.density, { look, shown });
  return shown;
}

function coloursOf(effect: SmokeEffect, { density, colours, heat }: SimulatedSmoke): Uint32Array | undefined {
  const { tint } = effect;
  const degrees = tint === 'by heat' ? heat : undefined;
  if (!colours && !degrees && tint !== 'by density') return undefined;
  const [from, to] = [effect.colour, effect.otherColour].map((hex) => hexToLinear(hex) ?? [1, 1, 1]);
  const out = new Uint32Array(density.length);
  for (let i = 0; i < out.length; i++) {
    if (density[i] <= 0) continue;
    let share = 0;
    if (degrees) share = Math.min(1, degrees[i] / effect.tintHeat);
    else if (tint === 'by density') share = Math.min(1, density[i] / effect.tintDensity);
    let word = 0;
    for (let c = 0; c < 3; c++) {
      // Both are kept as square roots, so their product is the product's root.
      const own = colours ? colours[i * 3 + c] : 255;
      word |= Math.round(own * Math.sqrt(Math.max(0, from[c] + (to[c] - from[c]) * share))) << (c * 8);
    }
    out[i] = word;
  }
  return out;
}
