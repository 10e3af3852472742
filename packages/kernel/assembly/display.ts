import { Path } from './path-state';
import { M_UNLIT, material, RAY_LIGHTING } from './scene';
import { Surface } from './surface';

/**
 * Unlit finishes have display colours: this is the way back through the view transforms, from a colour on the display to
 * the light that is shown as it (core/picture/view-transform.ts is the way there).
 */

/**
 * Display white itself would need endless light. One step of 255 below it takes a sixth of the light of half a step, which
 * keeps edges smooth: there the light of a pixel is a mean.
 */
const WHITEST: f64 = 0.991;
const START: f64 = 0.76;
const DESATURATION: f64 = 0.15;

/** An unlit surface was met: seen straight or by mirrors it shows its colour, and it lights nothing. */
export function meetUnlit(path: Path, s: Surface): void {
  if (path.mask == RAY_LIGHTING) return;
  const exposure = <f64>path.scene.exposureScale;
  if (exposure <= 0) return;
  const view = <i32>material(path.scene, s.material, M_UNLIT);
  const most = view == 1 || view == 2 ? WHITEST : 1.0;
  s.r = Math.min(most, Math.max(0, s.r));
  s.g = Math.min(most, Math.max(0, s.g));
  s.b = Math.min(most, Math.max(0, s.b));
  // White on the display takes dozens of times its light: mirrored by rough things, that would be a glow on them.
  if (path.bounces == 0) {
    if (view == 1) fromNeutral(s);
    else if (view == 2) fromFilmic(s);
  }
  path.add(s.r / exposure, s.g / exposure, s.b / exposure, path.scene.lightPasses - 1, path.lobe);
}

/** Khronos PBR Neutral, the other way: its peak, then how far it was bleached, then what it took off the darkest. */
function fromNeutral(s: Surface): void {
  const peak = shownPeak(s);
  if (peak > START) {
    const before = peakBefore(peak);
    const mix = bleached(peak);
    const scale = before / peak / (1 - mix);
    s.r = Math.max(0, Math.min(peak, s.r) - peak * mix) * scale;
    s.g = Math.max(0, Math.min(peak, s.g) - peak * mix) * scale;
    s.b = Math.max(0, Math.min(peak, s.b) - peak * mix) * scale;
  }
  const least = Math.min(s.r, Math.min(s.g, s.b));
  const offset = least < 0.04 ? Math.sqrt(least / 6.25) - least : 0.04;
  s.r += offset;
  s.g += offset;
  s.b += offset;
}

/** The light of a peak that is shown as `peak`, and the share of white that it is mixed with on the way. */
function peakBefore(peak: f64): f64 {
  const d = 1 - START;
  return (d * d) / (1 - peak) - d + START;
}

function bleached(peak: f64): f64 {
  return 1 - 1 / (DESATURATION * (peakBefore(peak) - peak) + 1);
}

/** The bright end of the transform bleaches: where it has no such bright and saturated colour, the nearest darker peak. */
function shownPeak(s: Surface): f64 {
  const peak = Math.max(s.r, Math.max(s.g, s.b));
  if (peak <= START || bleached(peak) * peak <= Math.min(s.r, Math.min(s.g, s.b))) return peak;
  let low = START;
  let high = peak;
  for (let i = 0; i < 16; i++) {
    const a = low + (high - low) / 3;
    const b = high - (high - low) / 3;
    if (missed(s, a) < missed(s, b)) high = b;
    else low = a;
  }
  return low;
}

/** Squared distance from a colour to the nearest that is shown with this peak. */
function missed(s: Surface, peak: f64): f64 {
  const white = bleached(peak) * peak;
  const r = s.r - Math.min(peak, Math.max(white, s.r));
  const g = s.g - Math.min(peak, Math.max(white, s.g));
  const b = s.b - Math.min(peak, Math.max(white, s.b));
  return r * r + g * g + b * b;
}

/** The filmic curve solved for its light, channel by channel, and what the channels shared taken back. */
function fromFilmic(s: Surface): void {
  s.r = filmicLight(s.r) / 0.8;
  s.g = filmicLight(s.g) / 0.8;
  s.b = filmicLight(s.b) / 0.8;
  const mean = (s.r + s.g + s.b) / 3;
  s.r = Math.max(0, (s.r - 0.06 * mean) / 0.94);
  s.g = Math.max(0, (s.g - 0.06 * mean) / 0.94);
  s.b = Math.max(0, (s.b - 0.06 * mean) / 0.94);
}

function filmicLight(y: f64): f64 {
  const a = 2.51 - 2.43 * y;
  const b = 0.03 - 0.59 * y;
  return (-b + Math.sqrt(b * b + 4 * a * 0.14 * y)) / (2 * a);
}
