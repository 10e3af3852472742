import {
  newRecipe,
  recipeFacts,
  type AppliedRecipe,
  type ProductDocument,
  type RecipeKind,
  type SetDocument,
  type ShotDocument,
} from '../document/index.ts';
import { partMeasures, type RecipeRefusal } from './suggest-parts.ts';

export type { RecipeRefusal };
import { rollingRadius } from './rolling-radius.ts';
import type { PropertyValue } from '../properties/index.ts';

/** What a recipe is made up for. */
export interface RecipeAsk {
  id: string;
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  /** Ids of things in hand, the first one first. */
  chosen: readonly string[];
  /** Frame at which it begins. */
  start: number;
  /** Frames a second. */
  rate: number;
  /** Frames of the music's beats over the shot; with them beginnings and ends lie on beats. */
  beats?: readonly number[];
}

const OPENS_ON: Readonly<Record<string, string>> = {
  product: 'There is no product on the set to move: put one there in Set first.',
  light: 'There is no light on the set to move: add one in Set first.',
  card: 'There is no flag on the set to slide away: add one in Set first.',
  camera: 'The camera of this shot is gone: choose another one in Set first.',
};

/**
 * A recipe for what is in hand, with distances that suit the size of what it moves: a slide-in of a lipstick is shorter than
 * one of a kettle.
 */
export function suggestRecipe(kind: RecipeKind, ask: RecipeAsk): AppliedRecipe | RecipeRefusal {
  const { role, many, others, swaps, properties, usualLength, loops } = recipeFacts(kind);
  const { set, shot, products, rate } = ask;
  const camera = role === 'camera' ? shot.camera : '';
  if (camera && !set.cameras.some((c) => c.id === camera)) return { refused: OPENS_ON.camera };
  const things = thingsFor(role === 'camera' ? (others ?? null) : role, many || others !== undefined, kind, ask);
  if (things.length === 0 && (role !== 'camera' || others)) return { refused: OPENS_ON[others ?? role] };
  const start = onBeat(Math.min(ask.start, shot.length - 1), ask.beats);
  const rest = shot.length - start;
  // The last key lies on the last frame, so that it is seen; that of a loop one frame later, where it begins anew.
  const whole = Math.max(1, loops ? rest : rest - 1);
  const usual = Math.max(1, Math.round((usualLength * rate) / 24));
  const end = onBeat(
    start + usual,
    ask.beats?.filter((beat) => beat > start + usual / 2),
  );
  const size = sizeOf(things, ask);
  const variants = swaps ? variantsOf(things, set, products) : [];
  if (swaps && variants.length < 2)
    return { refused: 'This product has one variant only: make another one in Products first.' };
  const own = partMeasures(kind, size, things, set, products);
  if ('refused' in own) return own;
  // An animation goes at its own speed.
  const { to } = own.measures;
  const playing = kind === 'own-animation' && typeof to === 'number' ? Math.round(to * rate) : undefined;
  return newRecipe(ask.id, kind, {
    start,
    length: usualLength === 0 ? whole : Math.max(1, playing ?? end - start),
    things,
    camera,
    variants,
    options: { ...fitted(size, rate / 24, properties), ...ownMeasures(kind, size, things, ask), ...own.measures },
    at: 'apart' in properties && ask.beats ? onBeats(start, things.length, ask.beats) : [],
  });
}

/** Recipes that all products take part in when one alone is in hand or none. */
const FOR_ALL: ReadonlySet<RecipeKind> = new Set([
  'fan-out',
  'copies',
  'line-up',
  'fly-past',
  'focus-pull',
  'switch-on',
  'hover',
]);

function thingsFor(
  role: 'product' | 'light' | 'card' | null,
  many: boolean,
  kind: RecipeKind,
  { set, chosen, products }: RecipeAsk,
): string[] {
  if (!role) return [];
  const all = {
    product: set.products.filter((p) => p.visible),
    light: set.lights.filter((l) => l.on),
    card: set.surfaces.filter((s) => s.kind === 'card' && s.visible),
  }[role].map(({ id }) => id);
  const picked = chosen.filter((id) => all.includes(id));
  if (FOR_ALL.has(kind) && picked.length < 2) return all;
  if (picked.length > 0) return many ? picked : picked.slice(0, 1);
  const arrivals = many && kind !== 'turntable' && kind !== 'stop-motion' && kind !== 'variant-swap';
  if (kind !== 'own-animation') return arrivals ? all : all.slice(0, 1);
  // Of all products the first that has one to play.
  const moves = (id: string): boolean => {
    const item = set.products.find((p) => p.id === id);
    return (products.get(item?.product ?? '')?.origin?.animations.length ?? 0) > 0;
  };
  return [all.find(moves) ?? all[0]].filter((id) => id !== undefined);
}

/** Largest measure of what is moved, metres. */
function sizeOf(things: readonly string[], { set, products }: RecipeAsk): number {
  const moved = set.products.filter((p) => things.includes(p.id));
  // A camera's way is measured by what it looks at.
  const sizes = (moved.length > 0 ? moved : set.products).map((p) => {
    const product = products.get(p.product);
    return product ? Math.max(...product.extent) * product.scale * p.scale : 0;
  });
  return Math.max(0.02, ...sizes);
}

/** Measures that mean something else in one recipe than in the others. */
function ownMeasures(
  kind: RecipeKind,
  size: number,
  things: readonly string[],
  { set, products }: RecipeAsk,
): Record<string, PropertyValue> {
  if (kind === 'roll-in') return { radius: rollingRadius(set, products, things[0]) };
  if (kind === 'hover') return { height: Number((size * 0.3).toPrecision(2)) };
  return kind === 'fly-past' ? { height: Number((size * 0.8).toPrecision(2)) } : {};
}

/** Options that depend on size, or on the frame rate. */
function fitted(size: number, frames: number, properties: object): Record<string, PropertyValue> {
  const rounded = (metres: number): number => Number(metres.toPrecision(2));
  const made: Record<string, PropertyValue> = {
    distance: rounded(size * 5),
    height: rounded(size * 2.5),
    between: rounded(size * 1.3),
    near: rounded(size * 2.5),
    swing: rounded(size * 0.07),
    across: rounded(size * 2),
    apart: Math.max(1, Math.round(6 * frames)),
  };
  const taken = Object.entries(properties as Record<string, { display?: { unit: string } }>)
    .filter(([name, { display }]) => name in made && (display?.unit === 'cm' || name === 'apart'))
    .map(([name]) => [name, made[name]]);
  return Object.fromEntries(taken) as Record<string, PropertyValue>;
}

function variantsOf(things: readonly string[], set: SetDocument, products: RecipeAsk['products']): string[] {
  const item = set.products.find((p) => p.id === things[0]);
  const all = (item && products.get(item.product)?.variants.map(({ id }) => id)) ?? [];
  // The one that is shown comes last: the first swap is to another.
  const shown = item?.variant || all[0];
  return [...all.filter((id) => id !== shown), ...all.filter((id) => id === shown)];
}

/** The nearest beat to a frame, as a whole frame; the frame itself without beats. */
function onBeat(frame: number, beats: readonly number[] = []): number {
  if (beats.length === 0) return frame;
  const nearest = beats.reduce((best, beat) => (Math.abs(beat - frame) < Math.abs(best - frame) ? beat : best));
  return Math.max(0, Math.round(nearest));
}

/** Frames after a start at which so many things begin, a beat each; none when the music has too few beats left. */
function onBeats(start: number, count: number, beats: readonly number[]): number[] {
  const later = beats.filter((beat) => Math.round(beat) >= start);
  return later.length < count ? [] : later.slice(0, count).map((beat) => Math.round(beat) - start);
}
