import { freshName, namesOf, newParticles, type ParticlesEffect, type SetDocument } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import type { Subject } from './light-kits.ts';

export const PARTICLE_KITS = [
  ...(['dust in light', 'petal burst', 'falling petals', 'falling leaves', 'falling seeds', 'snow'] as const),
  ...(['falling ice', 'falling beads', 'specks from the product'] as const),
] as const;
/** Particles made up for what stands on a set. */
export type ParticleKit = (typeof PARTICLE_KITS)[number];

const rounded = (value: number): number => Number(value.toPrecision(2));

/**
 * Particles sized for a subject: places, sizes and forces follow from how large it is. Lengths grow with it, times stay, so that a
 * perfume sample and a kettle look alike.
 */
export function placeParticleKit(
  kit: ParticleKit,
  set: SetDocument,
  { centre, radius: r }: Subject,
  id: string,
): ParticlesEffect {
  const name = freshName(
    namesOf(set.effects),
    kit.replace(/^./, (c) => c.toUpperCase()),
  );
  const at = (across: number, up: number, forward: number): Vec3 =>
    [centre[0] + across * r, up * r, centre[2] + forward * r].map((v) => Number(v.toFixed(4))) as Vec3;
  const box = (width: number, height: number, depth: number): Pick<ParticlesEffect, 'width' | 'height' | 'depth'> => ({
    ...{ width: rounded(width * r), height: rounded(height * r), depth: rounded(depth * r) },
  });
  const cells = { coarse: rounded(r / 16), normal: rounded(r / 24), fine: rounded(r / 40) };
  const of = (radii: number): number => rounded(radii * r);
  const made = (values: Partial<ParticlesEffect>): ParticlesEffect => ({
    ...newParticles(id, name, { goal: at(0, 1, 0), ...values }),
    cells,
  });
  /** What falls on the set from a sheet above it, a while before the shot begins. */
  const falling = (values: Partial<ParticlesEffect>): ParticlesEffect =>
    made({
      ...{ source: 'box', position: at(0, 4.6, 0), ...box(7, 0.4, 5), start: -48 },
      ...{ collides: true, contact: 'stick', growing: 0, shrinking: 0, life: 8, lifeSpread: 0 },
      ...{ turbulence: of(1.2), eddies: of(1.6) },
      ...values,
    });
  const petals = {
    form: 'petal',
    colour: '#B78AC4',
    otherColour: '#E8D3EA',
    roughness: 0.55,
    transmission: 0.25,
  } as const;
  switch (kit) {
    case 'dust in light':
      return made({
        ...{ source: 'box', position: at(0, 1.7, 0), ...box(7, 3.4, 5), start: -72 },
        ...{ rate: 240, life: 7, gravity: rounded(0.05 * r), drag: 4, turbulence: of(0.22), eddies: of(1.3) },
        ...{ form: 'speck', tumble: 0, size: rounded(0.017 * r), sizeSpread: 0.7, growing: 0.2, shrinking: 0.2 },
        ...{ colour: '#FFF4DF', otherColour: '#FFFFFF', roughness: 0.4 },
      });
    case 'petal burst':
      return made({
        ...{ source: 'ball', position: at(0, 0.5, -0.6), ...box(0.8, 0.6, 0.8) },
        ...{ rate: 0, burst: 180, life: 6, lifeSpread: 0.2, outward: of(17), velocity: [0, of(14), 0], spread: 0.8 },
        ...{ gravity: of(26), drag: 4.5, turbulence: of(1.6), eddies: of(1.2), flutter: 1, tumble: 2 },
        ...{ collides: true, contact: 'stick', growing: 0.01, shrinking: 0, size: of(0.3), sizeSpread: 0.35 },
        ...petals,
      });
    case 'falling petals':
      return falling({
        ...{ rate: 14, gravity: of(22), drag: 5, flutter: 1, tumble: 1.2, size: of(0.3), sizeSpread: 0.35 },
        ...petals,
      });
    case 'falling leaves':
      return falling({
        ...{ rate: 10, gravity: of(20), drag: 4, flutter: 1, tumble: 1, size: of(0.6), sizeSpread: 0.3 },
        ...{ form: 'leaf', colour: '#8A4B1C', otherColour: '#C9A33B', roughness: 0.6, transmission: 0.15 },
      });
    case 'falling seeds':
      return falling({
        ...{ rate: 40, gravity: of(120), drag: 1.2, contact: 'bounce', bounce: 0.35, friction: 0.5, tumble: 3 },
        ...{ form: 'seed', size: of(0.13), colour: '#3B2A1C', otherColour: '#B08A52', roughness: 0.45 },
      });
    case 'snow':
      return falling({
        ...{ rate: 160, gravity: of(8), drag: 5, flutter: 0.5, tumble: 0.6, size: of(0.075), sizeSpread: 0.5 },
        ...{ start: -96, life: 10, form: 'flake', colour: '#FFFFFF', otherColour: '#E6F1FF', roughness: 0.5 },
        transmission: 0.2,
      });
    case 'falling ice':
      return falling({
        ...{ rate: 14, start: -24, gravity: of(140), drag: 0.2, tumble: 1.5 },
        ...{ contact: 'bounce', bounce: 0.25, friction: 0.25 },
        ...{ form: 'ice', size: of(0.42), sizeSpread: 0.2, colour: '#FFFFFF', otherColour: '#F4FAFF', roughness: 0.06 },
        transmission: 1,
      });
    case 'falling beads':
      return falling({
        ...{ rate: 22, start: -24, gravity: of(140), drag: 0.15, contact: 'bounce', bounce: 0.45, friction: 0.3 },
        ...{
          form: 'bead',
          size: of(0.22),
          sizeSpread: 0.15,
          colour: '#E0A526',
          otherColour: '#F6D98A',
          roughness: 0.12,
        },
        transmission: 0.5,
      });
    case 'specks from the product':
      return made({
        ...{ source: 'thing', thing: set.products.find((p) => p.visible)?.id ?? '', start: -12 },
        ...{ rate: 700, life: 2.2, outward: of(0.8), velocity: [0, of(0.8), 0], spread: 0.7, gravity: of(-2) },
        ...{ drag: 2.5, turbulence: of(1.6), eddies: of(1), swirl: of(0.8), growing: 0.15, shrinking: 0.5 },
        ...{
          form: 'speck',
          tumble: 0,
          size: rounded(0.018 * r),
          sizeSpread: 0.6,
          colour: '#F3C969',
          otherColour: '#FFF3D0',
        },
        roughness: 0.35,
      });
  }
}
