import type { Builder, BuilderKind, TurnedBuilder } from '../document/index.ts';

/** Bodies to begin with, in real sizes; turned ones are corners of the outer side with their fillets. */
export const TURNED_PRESETS: Record<'jar' | 'bottle' | 'tin' | 'bowl' | 'dipper', TurnedBuilder> = {
  jar: {
    kind: 'turned',
    profile: [
      [0, 0, 0],
      [0.034, 0, 0.005],
      [0.034, 0.066, 0.01],
      [0.0285, 0.0745, 0.003],
      [0.0285, 0.086, 0.0008],
    ],
    wall: 0.0024,
    fill: 0.72,
    cap: { kind: 'lid', height: 0.014 },
    band: { shown: true, from: 0.015, to: 0.055, degrees: 310 },
  },
  bottle: {
    kind: 'turned',
    profile: [
      [0, 0, 0],
      [0.036, 0, 0.006],
      [0.036, 0.14, 0.03],
      [0.014, 0.185, 0.02],
      [0.0125, 0.235, 0.002],
      [0.0145, 0.238, 0.001],
      [0.0145, 0.246, 0.001],
    ],
    wall: 0.0026,
    fill: 0.66,
    cap: { kind: 'cork', height: 0.03 },
    band: { shown: true, from: 0.03, to: 0.115, degrees: 200 },
  },
  tin: {
    kind: 'turned',
    profile: [
      [0, 0, 0],
      [0.045, 0, 0.0015],
      [0.045, 0.034, 0.0006],
    ],
    wall: 0.0005,
    fill: 0,
    cap: { kind: 'lid', height: 0.016 },
    band: { shown: false, from: 0.004, to: 0.018, degrees: 360 },
  },
  bowl: {
    kind: 'turned',
    profile: [
      [0, 0, 0],
      [0.03, 0, 0.004],
      [0.066, 0.03, 0.03],
      [0.075, 0.06, 0.001],
    ],
    wall: 0.0035,
    fill: 0,
    cap: { kind: 'none', height: 0 },
    band: { shown: false, from: 0.02, to: 0.05, degrees: 360 },
  },
  dipper: {
    kind: 'turned',
    profile: [
      [0, 0, 0],
      [0.008, 0.001, 0.003],
      [0.012, 0.006, 0.001],
      [0.0085, 0.0075, 0.0005],
      [0.013, 0.0105, 0.001],
      [0.009, 0.0125, 0.0005],
      [0.013, 0.0155, 0.001],
      [0.0085, 0.0175, 0.0005],
      [0.0115, 0.0205, 0.001],
      [0.005, 0.026, 0.004],
      [0.0034, 0.06, 0.03],
      [0.0042, 0.14, 0.02],
      [0.0052, 0.15, 0.003],
      [0, 0.155, 0],
    ],
    wall: 0,
    fill: 0,
    cap: { kind: 'none', height: 0 },
    band: { shown: false, from: 0.07, to: 0.1, degrees: 360 },
  },
};

/** A product body of a kind at a size that is common for it. */
export function newBuilder(kind: BuilderKind): Builder {
  switch (kind) {
    case 'carton':
      return { kind, width: 0.09, height: 0.12, depth: 0.06, board: 0.0006, bevel: 0.001, open: 0 };
    case 'turned':
      return TURNED_PRESETS.jar;
    case 'device':
      return { kind, width: 0.072, height: 0.15, depth: 0.008, corner: 0.01, bevel: 0.002, border: 0.004 };
    case 'pouch':
      return { kind, width: 0.12, height: 0.18, thickness: 0.055, seal: 0.008, standing: true };
    case 'cutout':
      return { kind, label: 'Square', outlines: [[0, 0, 1, 0, 1, 1, 0, 1]], height: 0.06, depth: 0.015, bevel: 0.001 };
  }
}
