/**
 * How often a path that comes to clear glass follows the mirror image rather than what is behind, learned while a block of pixels is
 * traced: the odds with the least variance go by the root of what either way brings, squared (second moments; as paths are
 * guided in Vorba et al. 2014, by a table of few cells). A lamp that glass mirrors by four per cent outshines all else.
 *
 * Learned apart for each of the first surfaces of a path; any odds give the same mean. What was learned counts from the next round
 * of samples on: within one the odds stay, or numbers that are well spread would do no good.
 */
@unmanaged
export class Odds {
  /** Choices of the path at hand, up to LEARNED; -1 while nothing is learned. */
  made: i32;
}

/** Surfaces along a path that are learned of, the rest goes by reflectance. */
const LEARNED: i32 = 4;
/** What either way brings is counted up to display white: beyond it nothing more is seen. */
const BRIGHT: f64 = 1;
/** What both ways bring before anything is known, squared, and for how many paths that counts. */
const BEFORE: f64 = 0.05;
const BEFORE_PATHS: f64 = 8;
/** Images are followed as often as reflectance says at least, and no more often than this by what was learned. */
const MOST: f64 = 0.2;
/** A choice: what its light counts for it, the reflectance or what it leaves, and which way: 0 for the mirror image. */
const CHOICE: usize = 24;
/** Squares and numbers of either way, then the roots that odds go by. */
const CELL: usize = 48;

export const ODDS_BYTES: usize = 16 + <usize>LEARNED * (CHOICE + CELL);

// @ts-ignore: decorator
@inline
function choice(odds: Odds, i: i32): usize {
  return changetype<usize>(odds) + 16 + <usize>i * CHOICE;
}

// @ts-ignore: decorator
@inline
function cell(odds: Odds, i: i32): usize {
  return changetype<usize>(odds) + 16 + <usize>LEARNED * CHOICE + <usize>i * CELL;
}

/** Forgets what was learned; `off` leaves all odds to reflectance. */
export function forgetOdds(odds: Odds, off: bool): void {
  odds.made = off ? -1 : 0;
  for (let i = 0; i < LEARNED; i++) {
    for (let way: usize = 0; way < 2; way++) {
      store<f64>(cell(odds, i) + way * 16, BEFORE * BEFORE_PATHS);
      store<f64>(cell(odds, i) + way * 16, BEFORE_PATHS, 8);
    }
  }
  applyOdds(odds);
}

/** Lets what was learned count. */
export function applyOdds(odds: Odds): void {
  for (let i = 0; i < LEARNED; i++) {
    const at = cell(odds, i);
    store<f64>(at, Math.sqrt(load<f64>(at) / load<f64>(at, 8)), 32);
    store<f64>(at, Math.sqrt(load<f64>(at, 16) / load<f64>(at, 24)), 40);
  }
}

/** Odds of the mirror image at the next surface of a path, of the given reflectance. */
export function oddsOf(odds: Odds, reflectance: f64): f64 {
  if (odds.made < 0 || odds.made >= LEARNED || reflectance >= 1) return reflectance;
  const at = cell(odds, odds.made);
  const mirrored = reflectance * load<f64>(at, 32);
  const through = (1.0 - reflectance) * load<f64>(at, 40);
  const p = mirrored / Math.max(1e-12, mirrored + through);
  return Math.min(Math.max(p, reflectance), Math.max(MOST, reflectance));
}

/** Notes what was chosen. @returns what the light counts more or less for that. */
export function chose(odds: Odds, p: f64, mirrored: bool, reflectance: f64): f64 {
  const share = mirrored ? reflectance / p : (1.0 - reflectance) / (1.0 - p);
  if (odds.made < 0 || odds.made >= LEARNED) return share;
  const at = choice(odds, odds.made++);
  store<f64>(at, share);
  store<f64>(at, mirrored ? reflectance : 1.0 - reflectance, 8);
  store<i32>(at, mirrored ? 0 : 1, 16);
  return share;
}

/** Learns from a whole path that brought so much light, in display white. */
export function learnOdds(odds: Odds, light: f64): void {
  for (let i = 0; i < odds.made; i++) {
    const from = choice(odds, i);
    const way = Math.max(1e-6, load<f64>(from, 8));
    const brings = Math.min(BRIGHT, (light / Math.max(1e-6, load<f64>(from))) * way) / way;
    const to = cell(odds, i) + ((<usize>load<i32>(from, 16)) << 4);
    store<f64>(to, load<f64>(to) + brings * brings);
    store<f64>(to, load<f64>(to, 8) + 1, 8);
  }
  if (odds.made > 0) odds.made = 0;
}
