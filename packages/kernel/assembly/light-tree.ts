import { at, Scene, word } from './scene';

/**
 * A tree over lights that chooses one by what it may bring to a point (Conty Estevez and Kulla 2018). Node, 16 words:
 * | 0..5 box | 6 power | 7..9 axis | 10 cosine of the cone of normals | 11 cosine beyond it up to which light goes out |
 * 12 left child, or -1 - light (i32) | 13 right child (i32) | 14 sine of the cone of normals |
 */
const NODE: i32 = 16;

/** An upper guess of a node's light at a point; `facing` 0 leaves the receiver's normal out (glass, smoke). */
function importance(scene: Scene, node: i32, x: f64, y: f64, z: f64, nx: f64, ny: f64, nz: f64, facing: bool): f64 {
  const p = scene.tree + (<usize>(node * NODE) << 2);
  const x0 = at(p, 0);
  const y0 = at(p, 1);
  const z0 = at(p, 2);
  const x1 = at(p, 3);
  const y1 = at(p, 4);
  const z1 = at(p, 5);
  const hx = (x1 - x0) * 0.5;
  const hy = (y1 - y0) * 0.5;
  const hz = (z1 - z0) * 0.5;
  let wx = x - (x0 + hx);
  let wy = y - (y0 + hy);
  let wz = z - (z0 + hz);
  const r2 = hx * hx + hy * hy + hz * hz;
  const d2 = wx * wx + wy * wy + wz * wz;
  const inverse = 1.0 / (d2 + 1e-20);
  const d = Math.sqrt(inverse);
  wx *= d;
  wy *= d;
  wz *= d;
  const inside = d2 <= r2;
  const sin2 = r2 * inverse;
  const cosB = inside ? -1.0 : Math.sqrt(Math.max(0.0, 1.0 - sin2));
  const sinB = inside ? 0.0 : Math.sqrt(sin2);
  const cosW = wx * at(p, 7) + wy * at(p, 8) + wz * at(p, 9);
  const sinW = Math.sqrt(Math.max(0.0, 1.0 - cosW * cosW));
  const cosO = at(p, 10);
  const sinO = at(p, 14);
  const cosX = cosW > cosO ? 1.0 : cosW * cosO + sinW * sinO;
  const sinX = cosW > cosO ? 0.0 : sinW * cosO - cosW * sinO;
  const cosP = cosX > cosB ? 1.0 : cosX * cosB + sinX * sinB;
  if (cosP <= at(p, 11)) return 0;
  let value = (at(p, 6) * Math.max(0.05, cosP)) / Math.max(d2, r2);
  if (facing) {
    const cosI = -(wx * nx + wy * ny + wz * nz);
    const sinI = Math.sqrt(Math.max(0.0, 1.0 - cosI * cosI));
    const bound = cosI > cosB ? 1.0 : cosI * cosB + sinI * sinB;
    if (bound <= 0) return 0;
    value *= bound;
  }
  return value;
}

@unmanaged
export class LightChoice {
  light: i32;
  /** Probability with which it was chosen. */
  chance: f64;
}

/** Walks down to one light. @returns false when none can reach the point. */
export function chooseLight(
  scene: Scene,
  choice: f64,
  x: f64,
  y: f64,
  z: f64,
  nx: f64,
  ny: f64,
  nz: f64,
  facing: bool,
  out: LightChoice,
): bool {
  let u = choice;
  let chance: f64 = 1;
  const suns = scene.sunCount;
  if (suns > 0) {
    const share: f64 = scene.treeNodes > 0 ? 0.5 : 1.0;
    if (u < share) {
      const k = min(suns - 1, <i32>((u / share) * <f64>suns));
      out.light = k;
      out.chance = share / <f64>suns;
      return true;
    }
    u = (u - share) / (1.0 - share);
    chance = 1.0 - share;
  }
  if (scene.treeNodes == 0) return false;
  let node = 0;
  for (;;) {
    const p = scene.tree + (<usize>(node * NODE) << 2);
    const left = word(p, 12);
    if (left < 0) {
      if (node == 0 && importance(scene, 0, x, y, z, nx, ny, nz, facing) <= 0) return false;
      out.light = -1 - left;
      out.chance = chance;
      return true;
    }
    const right = word(p, 13);
    const a = importance(scene, left, x, y, z, nx, ny, nz, facing);
    const b = importance(scene, right, x, y, z, nx, ny, nz, facing);
    if (!(a + b > 0)) return false;
    const share = a / (a + b);
    if (u < share) {
      node = left;
      u = u / share;
      chance *= share;
    } else {
      node = right;
      u = (u - share) / (1.0 - share);
      chance *= 1.0 - share;
    }
    if (!(u < 1)) u = 0.99999999;
  }
  return false;
}

/** Probability with which chooseLight() gives `light` at a point. */
export function chanceOf(scene: Scene, light: i32, x: f64, y: f64, z: f64, nx: f64, ny: f64, nz: f64, facing: bool): f64 {
  const suns = scene.sunCount;
  let chance: f64 = 1;
  if (suns > 0) {
    const share: f64 = scene.treeNodes > 0 ? 0.5 : 1.0;
    if (light < suns) return share / <f64>suns;
    chance = 1.0 - share;
  }
  let trail = load<u32>(scene.trails + (<usize>light << 2));
  let node = 0;
  for (;;) {
    const p = scene.tree + (<usize>(node * NODE) << 2);
    const left = word(p, 12);
    if (left < 0) return node == 0 && importance(scene, 0, x, y, z, nx, ny, nz, facing) <= 0 ? 0.0 : chance;
    const right = word(p, 13);
    const a = importance(scene, left, x, y, z, nx, ny, nz, facing);
    const b = importance(scene, right, x, y, z, nx, ny, nz, facing);
    if (!(a + b > 0)) return 0;
    if (trail & 1) {
      chance *= b / (a + b);
      node = right;
    } else {
      chance *= a / (a + b);
      node = left;
    }
    trail >>= 1;
  }
  return 0;
}
