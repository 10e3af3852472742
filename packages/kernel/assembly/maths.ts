/** Trigonometry in turns by polynomial: the sampling angles need eleven digits, not the last bit, and take half the time. */

/** sin(2 pi x) for x in [-0.25, 0.25] and its like, to 1e-11 (Taylor, odd terms to the 13th). */
// @ts-ignore: decorator
@inline
function quarter(x: f64): f64 {
  const a = x * 6.283185307179586;
  const s = a * a;
  return (
    a *
    (1.0 +
      s *
        (-1.6666666666666666e-1 +
          s *
            (8.333333333333333e-3 +
              s *
                (-1.984126984126984e-4 +
                  s *
                    (2.7557319223985893e-6 +
                      s * (-2.505210838544172e-8 + s * (1.6059043836821613e-10 - s * 7.647163731819816e-13)))))))
  );
}

/** sin(2 pi x) for x in [0, 1]. */
export function sinTurn(x: f64): f64 {
  let t = x;
  if (t > 0.75) t -= 1.0;
  else if (t > 0.25) t = 0.5 - t;
  return quarter(t);
}

/** cos(2 pi x) for x in [0, 1]. */
export function cosTurn(x: f64): f64 {
  const t = x > 0.5 ? 1.0 - x : x;
  return quarter(0.25 - t);
}

// @ts-ignore: decorator
@inline
export function clamp01(x: f64): f64 {
  return x < 0 ? 0.0 : x > 1 ? 1.0 : x;
}

/** A basis round a unit vector (Duff et al. 2017): first tangent at `out`, second behind it, 6 doubles. */
export function basis(nx: f64, ny: f64, nz: f64, out: usize): void {
  const sign: f64 = nz >= 0 ? 1.0 : -1.0;
  const a = -1.0 / (sign + nz);
  const b = nx * ny * a;
  store<f64>(out, 1.0 + sign * nx * nx * a);
  store<f64>(out, sign * b, 8);
  store<f64>(out, -sign * nx, 16);
  store<f64>(out, b, 24);
  store<f64>(out, sign + ny * ny * a, 32);
  store<f64>(out, -ny, 40);
}

/** Falls from 1 at nothing to 0 at `reach`, smoothly at the end. */
export function decayWithin(distance: f64, reach: f64): f64 {
  const left = 1.0 - distance / reach;
  return left > 0 ? left * left : 0.0;
}

/** Of linear Rec.709. */
// @ts-ignore: decorator
@inline
export function luminance(r: f64, g: f64, b: f64): f64 {
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
