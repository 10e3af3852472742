import { seeded } from '../../maths/index.ts';

/** How the energy goes from the beginning to the end. */
export const ENERGIES = ['rising', 'arch', 'steady', 'build and drop'] as const;
export type Energy = (typeof ENERGIES)[number];

/** A bar of a piece. */
export interface Bar {
  /** 0 little, 1 all that there is. */
  energy: number;
  part: 'intro' | 'theme' | 'other' | 'end';
  /** The kind of music part that it belongs to. */
  kind: 'quiet' | 'steady' | 'build' | 'drop';
  /** Whether something new begins. */
  first: boolean;
}

/** Share of a piece with a drop that leads up to it. */
const DROP_AT = 0.5;

function energyAt(curve: Energy, t: number): number {
  switch (curve) {
    case 'rising':
      return 0.2 + 0.8 * t;
    case 'arch':
      return 0.25 + 0.75 * (1 - (2 * t - 1) * (2 * t - 1));
    case 'steady':
      return 0.7;
    case 'build and drop':
      return t < DROP_AT ? 0.15 + 0.5 * (t / DROP_AT) : 1;
  }
}

/**
 * The bars of a piece by its energy: a beginning, a theme and what contrasts with it in turns of two or four bars, and a bar that ends
 * it.
 */
export function formOf(count: number, curve: Energy, seed: number): Bar[] {
  const random = seeded(seed);
  const span = count >= 12 ? 4 : 2;
  const intro = count >= 6 ? Math.min(span, Math.floor(count / 6)) : 0;
  const drop = Math.round((count - 1) * DROP_AT);
  const bars: Bar[] = [];
  for (let i = 0; i < count; i++) {
    const energy = energyAt(curve, count > 1 ? i / Math.max(1, count - 2) : 1);
    const turn = Math.floor((i - intro) / span);
    const part = i === count - 1 ? 'end' : i < intro ? 'intro' : turn % 3 === 2 ? 'other' : 'theme';
    const kind =
      curve === 'build and drop' && i < count - 1
        ? i >= drop
          ? 'drop'
          : i >= drop - span
            ? 'build'
            : 'quiet'
        : energy < 0.4
          ? 'quiet'
          : 'steady';
    const before = bars[i - 1];
    bars.push({ energy, part, kind, first: !before || before.part !== part || before.kind !== kind });
  }
  // A breath before the drop: all but the chords is still.
  if (curve === 'build and drop' && drop > 1 && random() < 0.8)
    bars[drop - 1].energy = Math.min(bars[drop - 1].energy, 0.3);
  return bars;
}
