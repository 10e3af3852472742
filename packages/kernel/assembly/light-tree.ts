import { Scene } from './scene';

/**
 * A tree over lights that chooses one by what it may bring to a point (Conty Estevez and Kulla 2018), four children a
 * node. Node, 192 bytes, the same rows as core's LIGHT_NODE: centre x y z | squared radius | power | axis x y z | cosine
 * of the cone of normals | its sine | cosine beyond it up to which light goes out | child, or -1 - light (i32).
 */
const NODE_BYTES: usize = 192;
const CHILDREN: usize = 176;

/** sin or cos from the other. */
// @ts-ignore: decorator
@inline
function other(c: v128): v128 {
  return f32x4.sqrt(f32x4.pmax(f32x4.sub(f32x4.splat(1), f32x4.mul(c, c)), f32x4.splat(0)));
}

/** Upper guesses of what the four children of the node at `p` bring to a point; `facing` false leaves its normal out. */
function importance(p: usize, x: f64, y: f64, z: f64, nx: f64, ny: f64, nz: f64, facing: bool): v128 {
  const one = f32x4.splat(1);
  const none = f32x4.splat(0);
  let wx = f32x4.sub(f32x4.splat(<f32>x), v128.load(p));
  let wy = f32x4.sub(f32x4.splat(<f32>y), v128.load(p, 16));
  let wz = f32x4.sub(f32x4.splat(<f32>z), v128.load(p, 32));
  const r2 = v128.load(p, 48);
  const d2 = f32x4.add(f32x4.add(f32x4.mul(wx, wx), f32x4.mul(wy, wy)), f32x4.mul(wz, wz));
  const inverse = f32x4.div(one, f32x4.add(d2, f32x4.splat(1e-20)));
  const d = f32x4.sqrt(inverse);
  wx = f32x4.mul(wx, d);
  wy = f32x4.mul(wy, d);
  wz = f32x4.mul(wz, d);
  const inside = f32x4.le(d2, r2);
  const sin2 = f32x4.mul(r2, inverse);
  const cosB = v128.bitselect(f32x4.neg(one), f32x4.sqrt(f32x4.pmax(f32x4.sub(one, sin2), none)), inside);
  const sinB = v128.andnot(f32x4.sqrt(sin2), inside);
  const cosW = f32x4.add(
    f32x4.add(f32x4.mul(wx, v128.load(p, 80)), f32x4.mul(wy, v128.load(p, 96))),
    f32x4.mul(wz, v128.load(p, 112)),
  );
  const cosO = v128.load(p, 128);
  const sinO = v128.load(p, 144);
  const sinW = other(cosW);
  const within = f32x4.gt(cosW, cosO);
  const cosX = v128.bitselect(one, f32x4.add(f32x4.mul(cosW, cosO), f32x4.mul(sinW, sinO)), within);
  const sinX = v128.andnot(f32x4.sub(f32x4.mul(sinW, cosO), f32x4.mul(cosW, sinO)), within);
  const cosP = v128.bitselect(one, f32x4.add(f32x4.mul(cosX, cosB), f32x4.mul(sinX, sinB)), f32x4.gt(cosX, cosB));
  let value = f32x4.div(
    f32x4.mul(v128.load(p, 64), f32x4.pmax(cosP, f32x4.splat(0.05))),
    f32x4.pmax(f32x4.pmax(d2, r2), f32x4.splat(1e-20)),
  );
  if (facing) {
    const cosI = f32x4.neg(
      f32x4.add(
        f32x4.add(f32x4.mul(wx, f32x4.splat(<f32>nx)), f32x4.mul(wy, f32x4.splat(<f32>ny))),
        f32x4.mul(wz, f32x4.splat(<f32>nz)),
      ),
    );
    const bound = v128.bitselect(
      one,
      f32x4.add(f32x4.mul(cosI, cosB), f32x4.mul(other(cosI), sinB)),
      f32x4.gt(cosI, cosB),
    );
    value = f32x4.mul(value, f32x4.pmax(bound, none));
  }
  return v128.and(value, f32x4.gt(cosP, v128.load(p, 160)));
}


@unmanaged
export class LightChoice {
  light: i32;
  /** Probability with which it was chosen. */
  chance: f64;
  /** What the children of the node at hand bring, f32. */
  w0: f32;
  w1: f32;
  w2: f32;
  w3: f32;

  // @ts-ignore: decorator
  @inline
  row(): usize {
    return changetype<usize>(this) + offsetof<LightChoice>('w0');
  }

  // @ts-ignore: decorator
  @inline
  total(): f64 {
    return <f64>this.w0 + <f64>this.w1 + (<f64>this.w2 + <f64>this.w3);
  }
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
  const row = out.row();
  let node: i32 = 0;
  for (;;) {
    const p = scene.tree + <usize>node * NODE_BYTES;
    v128.store(row, importance(p, x, y, z, nx, ny, nz, facing));
    const total = out.total();
    if (!(total > 0)) return false;
    let rest = u * total;
    let lane: usize = 0;
    let weight = <f64>out.w0;
    while (rest >= weight && lane < 3) {
      rest -= weight;
      lane++;
      weight = <f64>load<f32>(row + (lane << 2));
    }
    // Rounding may lead beyond the last child that counts.
    while (!(weight > 0)) {
      lane--;
      weight = <f64>load<f32>(row + (lane << 2));
      rest = weight;
    }
    chance *= weight / total;
    node = load<i32>(p + CHILDREN + (lane << 2));
    if (node < 0) {
      out.light = -1 - node;
      out.chance = chance;
      return true;
    }
    u = Math.min(rest / weight, 0.99999999);
  }
  return false;
}

/** Probability with which chooseLight() gives `light` at a point; `scratch` is written over. */
export function chanceOf(
  scene: Scene,
  light: i32,
  x: f64,
  y: f64,
  z: f64,
  nx: f64,
  ny: f64,
  nz: f64,
  facing: bool,
  scratch: LightChoice,
): f64 {
  const suns = scene.sunCount;
  let chance: f64 = 1;
  if (suns > 0) {
    const share: f64 = scene.treeNodes > 0 ? 0.5 : 1.0;
    if (light < suns) return share / <f64>suns;
    chance = 1.0 - share;
  }
  const row = scratch.row();
  let trail = load<u32>(scene.trails + ((<usize>light) << 2));
  let node: i32 = 0;
  while (node >= 0) {
    const p = scene.tree + <usize>node * NODE_BYTES;
    v128.store(row, importance(p, x, y, z, nx, ny, nz, facing));
    const total = scratch.total();
    if (!(total > 0)) return 0;
    const lane = (<usize>(trail & 3)) << 2;
    chance *= <f64>load<f32>(row + lane) / total;
    node = load<i32>(p + CHILDREN + lane);
    trail >>= 2;
  }
  return chance;
}
