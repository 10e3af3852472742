import type { Ease, EaseShape, LinkedEase, PlainEase } from '../document/index.ts';
import { cos, exp, sin } from '../maths/index.ts';

/** Share of the way, usually 0..1, at a share of the span 0..1; 0 at 0 and 1 at 1. */
export type EaseFunction = (t: number) => number;

/** What a shape of ease does, in closed form. */
export function easeFunction(ease: EaseShape): EaseFunction {
  switch (ease.kind) {
    case 'soft':
      return soft(ease.start, ease.landing);
    case 'overshoot':
      return overshoot(ease.amount);
    case 'bounce':
      return bounce(ease.bounces, ease.kept);
    case 'spring':
      return sprung(ease);
    case 'steps':
      return (t) => (t >= 1 ? 1 : Math.floor(t * ease.count + 1e-9) / ease.count);
    case 'bezier':
      return bezier(ease.out, ease.in);
  }
}

/** The ease of a key with its link followed; a link to one that is gone eases as keys usually do. */
export function resolveEase(ease: Ease, linked: readonly LinkedEase[]): PlainEase | EaseShape {
  if (typeof ease === 'string' || ease.kind !== 'linked') return ease;
  return linked.find((e) => e.id === ease.id)?.ease ?? 'eased';
}

/**
 * A cubic Hermite span. The speed at an end falls with that end's strength to exactly 0, and grows with the other's, which
 * has to be caught up with: slopes stay within 0..2, so that it never turns back (Fritsch and Carlson 1980).
 */
function soft(start: number, landing: number): EaseFunction {
  const m0 = (1 - start) * (1 + landing);
  const m1 = (1 - landing) * (1 + start);
  return (t) => {
    const t2 = t * t;
    const t3 = t2 * t;
    return (t3 - 2 * t2 + t) * m0 + (3 * t2 - 2 * t3) + (t3 - t2) * m1;
  };
}

/**
 * 1 + (c + 1) u^3 + c u^2 with u = t - 1, whose peak lies 4 c^3 / (27 (c + 1)^2) beyond the end: c is found so that this is
 * the amount.
 */
function overshoot(amount: number): EaseFunction {
  let [low, high] = [0, 16];
  for (let step = 0; step < 60; step++) {
    const c = (low + high) / 2;
    if ((4 * c * c * c) / (27 * (c + 1) * (c + 1)) < amount) low = c;
    else high = c;
  }
  const c = (low + high) / 2;
  return (t) => {
    const u = t - 1;
    return 1 + ((c + 1) * u + c) * u * u;
  };
}

/**
 * A fall with constant acceleration, then bounces that rise to a share of the height before: each takes the root of that
 * share of the time of the one before. All of it fills the span.
 */
function bounce(bounces: number, kept: number): EaseFunction {
  const faster = Math.sqrt(kept);
  let whole = 1;
  for (let i = 1, half = faster; i <= bounces; i++, half *= faster) whole += 2 * half;
  return (t) => {
    if (t >= 1) return 1;
    let time = t * whole;
    if (time < 1) return time * time;
    time -= 1;
    for (let i = 1, [half, height] = [faster, kept]; i <= bounces; i++, half *= faster, height *= kept) {
      if (time < 2 * half) {
        const off = time / half - 1;
        return 1 - height * (1 - off * off);
      }
      time -= 2 * half;
    }
    return 1;
  };
}

/** Mass (kg), stiffness (N/m) and damping (Ns/m) of a spring. */
export interface Spring {
  mass: number;
  stiffness: number;
  damping: number;
}

/**
 * Where a mass is that a damped spring pulls from 0, at rest, to 1, after `t` seconds: the solution of
 * m x'' + d x' + k (x - 1) = 0 for weak, critical and strong damping.
 */
export function springAt({ mass, stiffness, damping }: Spring, t: number): number {
  const decay = damping / (2 * mass);
  const square = stiffness / mass - decay * decay;
  // Near critical damping both other solutions lose their digits.
  if (Math.abs(square) < 1e-6 * decay * decay) return 1 - exp(-decay * t) * (1 + decay * t);
  if (square > 0) {
    const turn = Math.sqrt(square);
    return 1 - exp(-decay * t) * (cos(turn * t) + (decay / turn) * sin(turn * t));
  }
  const root = Math.sqrt(-square);
  const [slow, fast] = [root - decay, -root - decay];
  return 1 - (fast * exp(slow * t) - slow * exp(fast * t)) / (fast - slow);
}

/** A spring over a second; what it is still away from rest then is taken in on the way, so that it ends on its key. */
function sprung(spring: Spring): EaseFunction {
  const left = 1 - springAt(spring, 1);
  return (t) => springAt(spring, t) + left * t * t * (3 - 2 * t);
}

/** A cubic Bezier from (0, 0) to (1, 1), at the parameter where it has come to `t` along the span. */
function bezier([x1, y1]: readonly number[], [x2, y2]: readonly number[]): EaseFunction {
  const at = (a: number, b: number, s: number): number => {
    const r = 1 - s;
    return 3 * r * r * s * a + 3 * r * s * s * b + s * s * s;
  };
  return (t) => {
    if (t <= 0) return 0;
    if (t >= 1) return 1;
    let [low, high] = [0, 1];
    // Along the span a curve with handles within it only goes forward: halving finds the place to the last bit.
    for (let step = 0; step < 52; step++) {
      const middle = (low + high) / 2;
      if (at(x1, x2, middle) < t) low = middle;
      else high = middle;
    }
    return at(y1, y2, (low + high) / 2);
  };
}
