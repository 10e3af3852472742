import { plainItem, type Builder, type ProductDocument, type SetProduct } from '../document/index.ts';
import { makeFinish, hexToLinear, type Finish } from '../finish/index.ts';
import { cos, seeded, sin } from '../maths/index.ts';
import { builtDocument } from '../product/index.ts';
import type { Subject } from './light-kits.ts';

export const BODY_KITS = ['ice drop', 'marbles', 'sweets'] as const;
/** Bodies made up for what stands on a set. */
export type BodyKit = (typeof BODY_KITS)[number];

/** How the bodies of a kit come in, in the words of the simulation of bodies. */
export interface BodyFall {
  way: 'drop' | 'pour' | 'roll';
  height: number;
  stagger: number;
  spread: number;
  tumble: number;
  away: number;
  direction: number;
  flight: number;
  frequency: number;
  damping: number;
  bounce: number;
  friction: number;
  home: number;
  seed: number;
}

export interface BodyKitMade {
  /** What they are, as a product of the campaign. */
  product: ProductDocument;
  things: SetProduct[];
  fall: BodyFall;
}

/** An outline of so many corners at height 1. */
function polygon(corners: number): number[] {
  return Array.from({ length: corners }, (_, i) => (i / corners) * 2 * Math.PI).flatMap((a) => [
    Number((0.5 + 0.5 * cos(a)).toFixed(5)),
    Number((0.5 + 0.5 * sin(a)).toFixed(5)),
  ]);
}

/** A ball's side: corners of an octagon round it, whose arcs meet. */
function roundProfile(r: number): Array<[number, number, number]> {
  const t = r * (Math.SQRT2 - 1);
  return [
    [0, 0, 0],
    [t, 0, r],
    [r, r - t, r],
    [r, r + t, r],
    [t, 2 * r, r],
    [0, 2 * r, 0],
  ];
}

const tinted = (name: string, colour: string, distance: number, more: Partial<Finish>): Finish =>
  makeFinish(name, {
    ...{ roughness: 0, transmission: 1, thickness: 0.02, attenuationDistance: distance },
    attenuationColor: hexToLinear(colour)!,
    ...more,
  });

interface BodyKitFacts {
  name: string;
  /** Width of one, in radii of the subject; between two sizes in metres. */
  size: number;
  between: readonly [number, number];
  count: number;
  body: (size: number) => Builder;
  finish: Finish;
  /** How far from the middle they lie, in radii of the subject. */
  ring: readonly [number, number];
  fall: (radius: number) => Partial<BodyFall>;
}

const KITS: Record<BodyKit, BodyKitFacts> = {
  'ice drop': {
    ...{ name: 'Ice cube', size: 0.42, between: [0.012, 0.032], count: 9, ring: [1.25, 2.3] },
    body: (size) => ({
      ...{ kind: 'cutout', label: 'Cube', outlines: [[0, 0, 1, 0, 1, 1, 0, 1]], height: size },
      ...{ depth: size * 0.9, bevel: size * 0.12 },
    }),
    finish: tinted('Ice', '#E4F1F6', 0.25, { ior: 1.31, roughness: 0.04 }),
    fall: (r) => ({ way: 'drop', height: 3 * r, stagger: 0.5 * r, tumble: 160, bounce: 0.35, friction: 0.25 }),
  },
  marbles: {
    ...{ name: 'Marble', size: 0.3, between: [0.01, 0.025], count: 14, ring: [1.2, 2.6] },
    body: (size) => ({
      ...{ kind: 'turned', wall: 0, fill: 0, cap: { kind: 'none', height: 0 } },
      ...{ band: { shown: false, from: 0.001, to: 0.002, degrees: 360 } },
      profile: roundProfile(size / 2),
    }),
    finish: tinted('Marble glass', '#C79BE0', 0.02, { ior: 1.5 }),
    fall: (r) => ({ way: 'roll', away: 7 * r, direction: 75, stagger: 0.35 * r, tumble: 18, bounce: 0.5 }),
  },
  sweets: {
    ...{ name: 'Honey sweet', size: 0.3, between: [0.01, 0.022], count: 24, ring: [1.2, 2.4] },
    body: (size) => ({
      ...{ kind: 'cutout', label: 'Sweet', outlines: [polygon(6)], height: size },
      ...{ depth: size * 0.55, bevel: size * 0.1 },
    }),
    finish: tinted('Honey sugar', '#F7C766', 0.03, { ior: 1.5, roughness: 0.12 }),
    fall: (r) => ({ way: 'pour', height: 3.2 * r, stagger: 0.4 * r, spread: 0.3 * r, tumble: 180, bounce: 0.2 }),
  },
};

/**
 * Bodies sized for a subject: a product of their own, places round it where they stand in the set, and how they come in. Poured ones
 * fall over its middle, into it when it is open.
 * @param id makes ids of things; which product they are is for the caller to fill in.
 */
export function placeBodyKit(
  kit: BodyKit,
  { centre, radius, cameraTurn }: Subject,
  seed: number,
  id: () => string,
): BodyKitMade {
  const facts = KITS[kit];
  const size = Number(Math.min(facts.between[1], Math.max(facts.between[0], facts.size * radius)).toPrecision(2));
  const made = builtDocument(facts.name, facts.body(size));
  const product: ProductDocument = {
    ...made,
    finishes: made.finishes.map(({ id: finish }) => ({ ...facts.finish, id: finish })),
  };
  const things = placesRound(facts, size, radius, cameraTurn, seed).map(([x, z, turn], n): SetProduct => ({
    ...{ id: id(), name: `${facts.name} ${n + 1}`, product: '', ...plainItem(), standsOn: '' },
    position: [centre[0] + x, 0, centre[2] + z].map((v) => Number(v.toFixed(4))) as SetProduct['position'],
    turn: Math.round(turn),
  }));
  const usual: BodyFall = {
    ...{ way: 'drop', height: 3 * radius, stagger: 0.3 * radius, spread: 0, tumble: 0, bounce: 0.3, friction: 0.5 },
    ...{ away: 6 * radius, direction: 90, flight: 0.5, frequency: 1, damping: 0.3, home: 0, seed },
  };
  return { product, things, fall: { ...usual, ...facts.fall(radius) } };
}

/** Places round the middle that are clear of each other, more of them towards the camera than behind. */
function placesRound(
  { count, ring: [near, far] }: BodyKitFacts,
  size: number,
  radius: number,
  cameraTurn: number,
  seed: number,
): Array<[x: number, z: number, turn: number]> {
  const random = seeded(seed);
  const places: Array<[number, number, number]> = [];
  for (let tries = 0; places.length < count && tries < count * 60; tries++) {
    const away = radius * (near + (far - near) * Math.sqrt(random()));
    const way = (cameraTurn * Math.PI) / 180 + (random() * 2 - 1) * 0.8 * Math.PI;
    const [x, z] = [away * sin(way), away * cos(way)];
    // Turned any way they still do not touch.
    if (places.some(([a, b]) => (a - x) * (a - x) + (b - z) * (b - z) < 2.2 * size * size)) continue;
    places.push([x, z, random() * 360]);
  }
  return places;
}
