import type { FrameRate } from '../time/index.ts';
import { migrate } from './migrate.ts';
import type { ProductDocument } from './product/index.ts';
import type { PromoDocument } from './promo/index.ts';
import type { SetDocument, ViewTransform } from './set/index.ts';
import type { LayerStack, ShotDocument } from './shot/index.ts';

export const TAKE_QUALITIES = ['sketch', 'clay', 'draft', 'final'] as const;
export type TakeQuality = (typeof TAKE_QUALITIES)[number];
/** Those that are traced; a sketch is drawn. */
export type TracedQuality = Exclude<TakeQuality, 'sketch'>;

/** Which frames of a shot a take renders: from the first to the last, every so many. */
export interface FrameChoice {
  first: number;
  last: number;
  step: number;
}

/**
 * The frame that is rendered for a frame of a shot: itself where all are. A frame between two that are rendered shows the earlier of
 * them (a half rate is held on twos), one before the first or after the last shows that one.
 */
export function renderedFor(frame: number, { first, last, step }: FrameChoice): number {
  return first + Math.floor((Math.min(last, Math.max(first, frame)) - first) / step) * step;
}

/** Everything a take is rendered from, as it was when the take was started: later edits do not touch it. */
export interface TakeSnapshot {
  set: SetDocument;
  shot: ShotDocument;
  /** Products of the set by id. */
  products: Record<string, ProductDocument>;
  quality: TakeQuality;
  width: number;
  height: number;
  /** Samples a pixel; 0 takes the quality's own. */
  samples: number;
  /** Frames a second; simulations need it. Missing in takes that were made before there were any. */
  frameRate?: FrameRate;
  /** Keeps all passes of each frame as a layered OpenEXR file. */
  passes?: boolean;
  /** Keeps each frame light by light, so that a composite can mix them anew. */
  lights?: boolean;
  /** Only this part of the picture is rendered, in shares of it; the rest stays black. */
  region?: { x0: number; y0: number; x1: number; y1: number };
  /** Only these frames are rendered, and shown for those between them; missing: all. */
  frames?: FrameChoice;
  /** Frames of the shot, and parts of them, that the take's own frames show, from the earliest to the latest; missing: its whole frames. */
  times?: number[];
}

/** Frames that a take has. */
export const takeLength = ({ shot, times }: Pick<TakeSnapshot, 'shot' | 'times'>): number =>
  times?.length ?? shot.length;

/** The frame of the shot, or the part of one, that a frame of a take shows. */
export function shotTime({ times }: Pick<TakeSnapshot, 'times'>, frame: number): number {
  if (!times) return frame;
  const at = Math.min(times.length - 1, Math.max(0, frame));
  const [first, next] = [Math.floor(at), Math.ceil(at)];
  return times[first] + (times[next] - times[first]) * (at - first);
}

/** What a delivery is made from, as it was when it was started. */
export interface DeliverySnapshot {
  promo: PromoDocument;
  frameRate: FrameRate;
  /** Frames of each take the promo uses. */
  takeLengths: Record<string, number>;
  /** Shots with a composite, by the take that the promo uses, and the view transform of their sets. */
  composites?: Record<string, TakeComposite>;
  /** Composites that layers of the promo show, and those that these show in turn, by the take. */
  shown?: Record<string, TakeComposite>;
  /** Other cuts that the promo shows, and those that these show in turn. */
  cuts?: Record<string, PromoDocument>;
}

/** What a composite of a take is made from. */
export interface TakeComposite {
  shot: ShotDocument;
  view: ViewTransform;
  /** Of the take, where it shows other times of the shot than its whole frames. */
  times?: number[];
  /** Composites that layers of it, and of those, show: by the take. */
  others?: Record<string, TakeComposite>;
}

/** Takes whose composites layers of a shot or a promo show. */
export const takesShown = ({ layers }: Pick<LayerStack, 'layers'>): string[] => [
  ...new Set(layers.flatMap((l) => (l.kind === 'composite' && l.take !== '' ? [l.take] : []))),
];

/**
 * The composites that layers of a shot show, and those that they show in turn, by the take.
 * @param find the shot that a take is of, with its view; null when there is none.
 */
export function othersShown(
  shot: Pick<LayerStack, 'layers'>,
  find: (take: string) => TakeComposite | null,
): Record<string, TakeComposite> {
  const found: Record<string, TakeComposite> = {};
  const wanted = takesShown(shot);
  // Grows while it is gone through; each take is in it once, so a ring ends.
  for (const take of wanted) {
    const composite = find(take);
    if (!composite) continue;
    found[take] = { shot: composite.shot, view: composite.view, ...(composite.times && { times: composite.times }) };
    for (const other of takesShown(composite.shot)) if (!wanted.includes(other)) wanted.push(other);
  }
  return found;
}

/** A stored take of any earlier version, with every document in it as one of the current version. */
export function migrateTake(stored: TakeSnapshot): TakeSnapshot {
  return {
    ...stored,
    set: migrate('set', stored.set),
    shot: migrate('shot', stored.shot),
    products: Object.fromEntries(Object.entries(stored.products).map(([id, p]) => [id, migrate('product', p)])),
  };
}

const migrated = (stored: Record<string, TakeComposite> = {}): Record<string, TakeComposite> =>
  Object.fromEntries(
    Object.entries(stored).map(([take, { shot, others, ...rest }]) => [
      take,
      { ...rest, shot: migrate('shot', shot), ...(others && { others: migrated(others) }) },
    ]),
  );

/** The same for a delivery. */
export function migrateDelivery(stored: DeliverySnapshot): DeliverySnapshot {
  return {
    ...stored,
    promo: migrate('promo', stored.promo),
    composites: migrated(stored.composites),
    shown: migrated(stored.shown),
    ...(stored.cuts && {
      cuts: Object.fromEntries(Object.entries(stored.cuts).map(([id, cut]) => [id, migrate('promo', cut)])),
    }),
  };
}
