import { Path } from './path-state';
import { M_UNLIT, material, RAY_LIGHTING } from './scene';
import { Surface } from './surface';

/**
 * Unlit finishes have display colours: this is the way back through the view transforms, from a colour on the display to
 * the light that is shown as it (core/picture/view-transform.ts is the way there).
 */

/** Display white itself would need endless light; this rounds to it. */
const WHITEST: f64 = 0.9985;
const START: f64 = 0.76;
const DESATURATION: f64 = 0.15;

/** An unlit surface was met: seen straight or by mirrors it shows its colour, and it lights nothing. */
export function meetUnlit(path: Path, s: Surface): void {
  if (path.mask == RAY_LIGHTING) return;
  const exposure = <f64>path.scene.exposureScale;
  if (exposure <= 0) return;
  s.r = displayed(s.r);
  s.g = displayed(s.g);
  s.b = displayed(s.b);
  const view = <i32>material(path.scene, s.material, M_UNLIT);
  if (view == 1) fromNeutral(s);
  else if (view == 2) fromFilmic(s);
  path.add(s.r / exposure, s.g / exposure, s.b / exposure, path.scene.lightPasses - 1, path.lobe);
}

// @ts-ignore: decorator
@inline
function displayed(v: f64): f64 {
  return Math.min(WHITEST, Math.max(0, v));
}

/** Khronos PBR Neutral, the other way: its peak, then how far it was bleached, then what it took off the darkest. */
function fromNeutral(s: Surface): void {
  const peak = Math.max(s.r, Math.max(s.g, s.b));
  if (peak > START) {
    const d = 1 - START;
    const before = (d * d) / (1 - peak) - d + START;
    const mix = 1 - 1 / (DESATURATION * (before - peak) + 1);
    const scale = before / peak / (1 - mix);
    s.r = Math.max(0, s.r - peak * mix) * scale;
    s.g = Math.max(0, s.g - peak * mix) * scale;
    s.b = Math.max(0, s.b - peak * mix) * scale;
  }
  const least = Math.min(s.r, Math.min(s.g, s.b));
  const offset = least < 0.04 ? Math.sqrt(least / 6.25) - least : 0.04;
  s.r += offset;
  s.g += offset;
  s.b += offset;
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
