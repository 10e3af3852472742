import { hexToLinear, linearToHex, type Rgb } from '../finish/index.ts';
import { allows, fitNumber, type NumberProperty, type Property, type PropertyValue } from '../properties/index.ts';
import type { Key, LinkedEase, PlainEase, Track } from '../document/index.ts';
import { easeFunction, resolveEase, type EaseFunction } from './ease.ts';

/** The value of a property at any frame (fractional allowed). */
export interface Curve {
  /** Frames of its first and last key. */
  readonly first: number;
  readonly last: number;
  at(frame: number): PropertyValue;
}

/**
 * Keys of numbers, made ready for sampling. Before the first and after the last key the value stays. `eased` follows the
 * quintic 6t^5 - 15t^4 + 10t^3 (zero velocity and acceleration at both ends), except that at the middle of a run of eased
 * keys in one direction the move flows through without stopping: a monotone cubic with the tangents of Fritsch and Carlson
 * (1980) is used between inner keys. What a shape of ease does is in ease.ts.
 */
export class NumberCurve implements Curve {
  private readonly frames: Float64Array;
  private readonly values: Float64Array;
  private readonly tangents: Float64Array;
  private readonly eases: ReadonlyArray<PlainEase | EaseFunction>;
  readonly first: number;
  readonly last: number;
  /** The span that the last sample fell into: most samples fall into the same or the next one. */
  private span = 0;

  /** @param keys in the order of their frames, @param linked what their linked eases are. */
  constructor(
    keys: ReadonlyArray<Key<number>>,
    private readonly property?: NumberProperty,
    linked: readonly LinkedEase[] = [],
  ) {
    this.frames = Float64Array.from(keys, (k) => k.frame);
    this.first = keys[0]?.frame ?? 0;
    this.last = keys.at(-1)?.frame ?? 0;
    this.values = Float64Array.from(keys, (k) => k.value);
    this.eases = keys.map((k) => {
      const ease = resolveEase(k.ease, linked);
      return typeof ease === 'string' ? ease : easeFunction(ease);
    });
    this.tangents = Float64Array.from(keys, (_, i) => tangent(keys, i));
  }

  at(frame: number): number {
    const value = this.sample(frame);
    return this.property ? fitNumber(this.property, value) : value;
  }

  private sample(frame: number): number {
    const { frames, values } = this;
    const last = frames.length - 1;
    if (last < 0) return 0;
    if (frame <= frames[0]) return values[0];
    if (frame >= frames[last]) return values[last];
    const i = (this.span = spanAt(frames, frame, this.span));
    const ease = this.eases[i];
    if (ease === 'hold') return values[i];
    const [a, b] = [values[i], values[i + 1]];
    const length = frames[i + 1] - frames[i];
    const t = (frame - frames[i]) / length;
    if (typeof ease === 'function') return a + (b - a) * ease(t);
    if (ease === 'linear') return a + (b - a) * t;
    const m0 = this.tangents[i] * length;
    const m1 = this.tangents[i + 1] * length;
    if (m0 === 0 && m1 === 0) return a + (b - a) * (t * t * t * (t * (t * 6 - 15) + 10));
    const t2 = t * t;
    const t3 = t2 * t;
    return (2 * t3 - 3 * t2 + 1) * a + (t3 - 2 * t2 + t) * m0 + (-2 * t3 + 3 * t2) * b + (t3 - t2) * m1;
  }
}

/** Slope (value per frame) through key `i`: zero at ends, turning points and beside linear or held spans. */
function tangent(keys: ReadonlyArray<Key<number>>, i: number): number {
  if (i === 0 || i === keys.length - 1) return 0;
  if (keys[i - 1].ease !== 'eased' || keys[i].ease !== 'eased') return 0;
  const before = (keys[i].value - keys[i - 1].value) / (keys[i].frame - keys[i - 1].frame);
  const after = (keys[i + 1].value - keys[i].value) / (keys[i + 1].frame - keys[i].frame);
  if (before * after <= 0) return 0;
  // The harmonic mean keeps the curve from overshooting either key.
  return (2 * before * after) / (before + after);
}

/** Index of the key at or before `frame`, which lies between the first and the last. `near` is tried first. */
function spanAt(frames: Float64Array, frame: number, near: number): number {
  if (frames[near] <= frame) {
    if (frame < frames[near + 1]) return near;
    if (frame < frames[near + 2]) return near + 1;
  }
  let [low, high] = [0, frames.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (frames[middle] <= frame) low = middle;
    else high = middle;
  }
  return low;
}

/** Several numbers at once: a place, or a colour's channels. */
class ManyCurves implements Curve {
  private readonly curves: readonly NumberCurve[];
  readonly first: number;
  readonly last: number;

  constructor(
    keys: ReadonlyArray<Key<number[]>>,
    private readonly finish: (values: number[]) => PropertyValue,
    properties: readonly NumberProperty[] = [],
    linked: readonly LinkedEase[] = [],
  ) {
    const count = keys[0].value.length;
    this.first = keys[0].frame;
    this.last = keys.at(-1)!.frame;
    this.curves = Array.from(
      { length: count },
      (_, c) =>
        new NumberCurve(
          keys.map((k) => ({ ...k, value: k.value[c] })),
          properties[c],
          linked,
        ),
    );
  }

  at(frame: number): PropertyValue {
    return this.finish(this.curves.map((curve) => curve.at(frame)));
  }
}

/** Values that cannot be blended: each holds until the next key. */
class StepCurve implements Curve {
  private readonly frames: Float64Array;
  readonly first: number;
  readonly last: number;

  constructor(private readonly keys: readonly Key[]) {
    this.first = keys[0].frame;
    this.last = keys.at(-1)!.frame;
    this.frames = Float64Array.from(keys, (k) => k.frame);
  }

  at(frame: number): PropertyValue {
    const { keys, frames } = this;
    const last = keys.length - 1;
    if (frame < frames[0]) return keys[0].value;
    return keys[frame >= frames[last] ? last : spanAt(frames, frame, 0)].value;
  }
}

const compiled = new WeakMap<Track, { property: Property; linked: readonly LinkedEase[]; curve: Curve | null }>();
const NONE: readonly LinkedEase[] = [];

/**
 * A track as a curve of its property; null when it has no keys or its values are not of the property's type. A track object
 * is compiled once: documents do not change in place, so that an edit of one key costs one track.
 */
export function compileCurve(track: Track, property: Property, linked: readonly LinkedEase[] = NONE): Curve | null {
  const known = compiled.get(track);
  if (known?.property === property && known.linked === linked) return known.curve;
  const curve = makeCurve(track.keys, property, linked);
  compiled.set(track, { property, linked, curve });
  return curve;
}

function makeCurve(keys: readonly Key[], property: Property, linked: readonly LinkedEase[]): Curve | null {
  if (keys.length === 0) return null;
  switch (property.type) {
    case 'number':
    case 'turn':
      // Out of its range a number is brought back at each frame, so that old keys still play.
      return keys.every((k) => typeof k.value === 'number')
        ? new NumberCurve(keys as ReadonlyArray<Key<number>>, property, linked)
        : null;
    case 'colour':
      return keys.every((k) => allows(property, k.value))
        ? new ManyCurves(
            keys.map((k) => ({ ...k, value: hexToLinear(k.value as string)! })),
            (rgb) => linearToHex(rgb as Rgb),
            [],
            linked,
          )
        : null;
    case 'place':
      return keys.every((k) => allows(property, k.value))
        ? new ManyCurves(keys as ReadonlyArray<Key<number[]>>, (values) => values, property.parts, linked)
        : null;
    case 'switch':
    case 'choice':
    case 'reference':
      return keys.every((k) => allows(property, k.value)) ? new StepCurve(keys) : null;
  }
}

/** The value of keys of numbers at `frame`. For many frames of the same keys make a NumberCurve. */
export function sampleKeys(keys: ReadonlyArray<Key<number>>, frame: number): number {
  return new NumberCurve(keys).at(frame);
}
