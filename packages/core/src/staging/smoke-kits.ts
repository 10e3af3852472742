import {
  freshName,
  namesOf,
  newEmitter,
  newSmoke,
  plainEffect,
  type SetDocument,
  type SmokeEffect,
} from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import type { Subject } from './light-kits.ts';

export const SMOKE_KITS = ['smoke reveal', 'two colours', 'smoke wipe', 'floor fog', 'steam', 'plain smoke'] as const;
/** Smoke made up for what stands on a set. */
export type SmokeKit = (typeof SMOKE_KITS)[number];

const rounded = (metres: number): number => Number(metres.toPrecision(2));

/**
 * Smoke sized for a subject: domain, sources and forces follow from how large it is. Lengths grow with it, times stay, so that a
 * perfume sample and a kettle look alike.
 */
export function placeSmokeKit(kit: SmokeKit, set: SetDocument, { centre, radius }: Subject, id: string): SmokeEffect {
  const name = freshName(
    namesOf(set.effects),
    kit.replace(/^./, (c) => c.toUpperCase()),
  );
  const r = radius;
  const [x, , z] = centre;
  const at = (across: number, up: number, forward: number): Vec3 =>
    [x + across * r, up * r, z + forward * r].map((v) => Number(v.toFixed(4))) as Vec3;
  const box = (width: number, height: number, depth: number): Pick<SmokeEffect, 'width' | 'height' | 'depth'> => ({
    width: rounded(width * r),
    height: rounded(height * r),
    depth: rounded(depth * r),
  });
  const effect = (domain: ReturnType<typeof box>, values: Partial<SmokeEffect>): SmokeEffect => ({
    ...newSmoke(id, name, { ...domain, position: at(0, 0, 0), eddies: rounded(r * 0.8) }),
    // Cells follow the domain, and so does how dense the smoke has to be to be seen.
    cells: plainEffect(Math.max(domain.width, domain.height, domain.depth)).cells,
    ...values,
  });
  const speed = (bodies: number): number => Number((bodies * r).toFixed(3));
  const source = (which: string, size: Vec3, values: Parameters<typeof newEmitter>[2]): ReturnType<typeof newEmitter> =>
    newEmitter(
      `${id}-${which.replace(' ', '-')}`,
      which.replace(/^./, (c) => c.toUpperCase()),
      {
        ...{ width: rounded(size[0] * r), height: rounded(size[1] * r), depth: rounded(size[2] * r) },
        ...values,
      },
    );
  const thickness = rounded(5.6 / r);
  /** Noise that renders break it up by, so many radii fine. */
  const detail = (amount: number, radii: number): Pick<SmokeEffect, 'detail' | 'detailSize'> => ({
    ...{ detail: amount, detailSize: rounded(radii * r) },
  });
  switch (kit) {
    case 'smoke reveal':
      return effect(box(5, 4, 4.4), {
        emitters: ([-1, 1] as const).map((side) =>
          source(side < 0 ? 'left' : 'right', [0.7, 0.9, 1.6], {
            ...{ position: at(side * 1.5, 0.5, 0.3), rate: 14, heat: 40, noise: 0.6 },
            velocity: [speed(-side * 3.4), speed(0.5), 0],
          }),
        ),
        ...{ lift: speed(9), turbulence: speed(12), swirl: 5, dissipation: 0.05, thickness },
        ...detail(0.7, 0.14),
        playback: { backwards: true, speed: 1, offset: 0, loop: false },
      });
    case 'two colours':
      return effect(box(5, 3.6, 3.8), {
        emitters: ([-1, 1] as const).map((side) =>
          source(side < 0 ? 'left' : 'right', [0.7, 0.8, 1.1], {
            ...{ position: at(side * 1.7, 0.5, 0.7), rate: 14, heat: 45, noise: 0.7 },
            ...{ velocity: [speed(-side * 4.2), speed(0.4), 0], colour: side < 0 ? '#C9A6D8' : '#F2C572' },
          }),
        ),
        ...{ lift: speed(12), turbulence: speed(16), swirl: 7, dissipation: 0.1, contrast: 1.15, thickness },
        ...detail(0.8, 0.11),
        playback: { backwards: true, speed: 1, offset: 0, loop: false },
      });
    case 'smoke wipe':
      return effect(box(6, 3, 3), {
        emitters: [
          source('bank', [0.5, 1.8, 2], {
            ...{ shape: 'box', position: at(-2.6, 1, 0), rate: 20, heat: 10, noise: 0.6 },
            velocity: [speed(6), 0, 0],
          }),
        ],
        ...{ lift: speed(3), wind: [speed(5), 0, 0], windGrip: 0.6, turbulence: speed(10), thickness },
        ...detail(0.6, 0.16),
      });
    case 'floor fog':
      return effect(box(6, 1.4, 4.6), {
        emitters: [-1.8, 0, 1.8].map((across, i) =>
          source(`fog ${i + 1}`, [1.6, 0.2, 0.8], {
            ...{ shape: 'box', position: at(across, 0.12, -1.7), rate: 6, heat: 0, noise: 0.8 },
            velocity: [0, 0, speed(2.2)],
          }),
        ),
        ...{ weight: speed(10), lift: 0, turbulence: speed(2.5), swirl: 3, dissipation: 0.1, start: -48 },
        ...{ thickness: rounded(3.4 / r), ...detail(0.4, 0.2) },
      });
    case 'steam':
      return effect(box(2.6, 4.4, 2.6), {
        emitters: [
          source('steam', [0.5, 0.2, 0.5], {
            ...{ position: at(0, (centre[1] / r) * 2 + 0.08, 0), rate: 7, heat: 70, noise: 0.7 },
            velocity: [0, speed(1.2), 0],
          }),
        ],
        ...{ lift: speed(14), turbulence: speed(4), dissipation: 0.55, cooling: 0.4, start: -24 },
        ...{ thickness: rounded(1.8 / r), eddies: rounded(r * 0.5), ...detail(0.5, 0.1) },
      });
    case 'plain smoke':
      return effect(box(4.4, 4.4, 4.4), {
        emitters: [source('source', [0.8, 0.8, 0.8], { position: at(1.2, 0.4, 0) })],
        ...{ lift: speed(18), turbulence: speed(5), thickness, ...detail(0.6, 0.14) },
      });
  }
}
