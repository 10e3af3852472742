import { Hit } from './hit';
import { DIRECTION, enter, NODE_BYTES, setLanes, STACK_ENTRY } from './lanes';
import { hitLight } from './light-shapes';
import { inverseAt, local } from './placement';
import {
  FLAG_DEFORMS,
  FLAG_IDENTITY,
  FLAG_MOVING,
  I_COLUMNS,
  I_FLAGS,
  I_KIND,
  I_MASK,
  I_MESH,
  I_SLOTS,
  instance,
  KIND_MESH,
  M_PASSES,
  material,
  Mesh,
  RAY_SHADOW,
  Scene,
  word,
} from './scene';
import { blendPacket, candidates, exact, IDS, PACKET_BYTES } from './triangles';

const NONE: i32 = i32.MIN_VALUE;

/**
 * Walks the tree for a ray of the kinds in `mask`. Nearest: leaves the hit in `hit` and returns 1 or 0. Any: 1 when
 * something opaque lies between, 2 when only see-through surfaces do, 0 when nothing does.
 */
export function walk(
  scene: Scene,
  hit: Hit,
  ox: f64,
  oy: f64,
  oz: f64,
  dx: f64,
  dy: f64,
  dz: f64,
  near: f64,
  far: f64,
  mask: i32,
  any: bool,
): i32 {
  hit.rays++;
  hit.t = far;
  hit.best = <f32>Math.min(far, 3e38);
  hit.instance = -1;
  hit.triangle = -1;
  hit.through = 0;
  hit.known = -1;
  hit.ox = ox;
  hit.oy = oy;
  hit.oz = oz;
  hit.dx = dx;
  hit.dy = dy;
  hit.dz = dz;
  hit.near = near;
  hit.far = far;
  setLanes(hit.world, f32x4(<f32>ox, <f32>oy, <f32>oz, 0), f32x4(<f32>dx, <f32>dy, <f32>dz, 1), <f32>near);
  if (scene.solidCount > 0 && walkTop(scene, hit, scene.nodes, 0, mask, any)) return 1;
  if (any) return hit.through;
  walkLights(scene, hit, mask);
  return hit.instance >= 0 ? 1 : 0;
}

/** Lights' own shapes: shadow rays pass them. */
// @ts-ignore: decorator
@inline
function walkLights(scene: Scene, hit: Hit, mask: i32): void {
  if (mask != RAY_SHADOW && scene.instanceCount > scene.solidCount) {
    walkTop(scene, hit, scene.lightNodes, scene.solidCount, mask, false);
  }
}

/** Walks a tree over instances, which count from `first`. True when an any-hit walk may stop. */
function walkTop(scene: Scene, hit: Hit, nodes: usize, first: i32, mask: i32, any: bool): bool {
  const lanes = hit.world;
  const base = hit.stack;
  let top = base;
  let node: i32 = 0;
  for (;;) {
    if (node >= 0) {
      const met = enter(nodes + <usize>node * NODE_BYTES, lanes, base - 16, top, hit.best, true);
      if (met >= 0) {
        node = <i32>met;
        top += <usize>(met >> 32);
        continue;
      }
    } else {
      hit.free = top;
      if (visit(scene, hit, first - 1 - node, mask, any)) return true;
    }
    const best = hit.best;
    node = NONE;
    while (top != base) {
      top -= STACK_ENTRY;
      if (load<f32>(top) <= best) {
        node = load<i32>(top + 4);
        break;
      }
    }
    if (node == NONE) return false;
  }
  return false;
}

/** Looks at one instance. True when an any-hit walk may stop. */
function visit(scene: Scene, hit: Hit, number: i32, mask: i32, any: bool): bool {
  const it = instance(scene, number);
  if ((word(it, I_MASK) & mask) == 0) return false;
  if (word(it, I_KIND) == KIND_MESH) {
    const lanes = intoSpace(hit, it, number);
    // Two walks, so that what keeps its shape pays nothing for what does not.
    if (word(it, I_FLAGS) & FLAG_DEFORMS) return walkDeforming(scene, hit, lanes, number, it, any);
    return walkMesh(scene, hit, lanes, number, it, any);
  }
  // Lights cast no shadows: any-hit walks pass them.
  if (!any) meetLight(scene, hit, number, it);
  return false;
}

/** Holds the ray at hand against a light's own shape. */
function meetLight(scene: Scene, hit: Hit, number: i32, it: usize): void {
  const light = word(it, I_MESH);
  if (!hitLight(scene, hit, light)) return;
  hit.best = <f32>hit.t;
  hit.instance = number;
  hit.triangle = light;
}

/** Brings the ray into an instance's own space. @returns its lanes there. */
// @ts-ignore: decorator
@inline
function intoSpace(hit: Hit, it: usize, number: i32): usize {
  const flags = word(it, I_FLAGS);
  if (flags & FLAG_IDENTITY) return hit.world;
  const lanes = hit.local;
  if (flags & FLAG_MOVING) {
    inverseAt(it, hit.time, hit.inverse);
    toMoving(hit);
    hit.known = number;
    setLanes(
      lanes,
      f32x4(<f32>hit.localX, <f32>hit.localY, <f32>hit.localZ, 0),
      f32x4(<f32>hit.alongX, <f32>hit.alongY, <f32>hit.alongZ, 1),
      <f32>hit.near,
    );
    return lanes;
  }
  const columns = it + ((<usize>I_COLUMNS) << 2);
  const world = hit.world;
  const a = v128.load(columns);
  const b = v128.load(columns, 16);
  const c = v128.load(columns, 32);
  const o = f32x4.add(
    f32x4.add(f32x4.mul(a, v128.load(world)), f32x4.mul(b, v128.load(world, 16))),
    f32x4.add(f32x4.mul(c, v128.load(world, 32)), v128.load(columns, 48)),
  );
  const d = f32x4.add(
    f32x4.add(f32x4.mul(a, v128.load(world, DIRECTION)), f32x4.mul(b, v128.load(world, DIRECTION + 16))),
    f32x4.mul(c, v128.load(world, DIRECTION + 32)),
  );
  setLanes(lanes, o, d, <f32>hit.near);
  return lanes;
}

/** The ray in a moving thing's space, in double precision. */
function toMoving(hit: Hit): void {
  const m = hit.inverse;
  hit.localX = local(m, 0, hit.ox, hit.oy, hit.oz, 1);
  hit.localY = local(m, 32, hit.ox, hit.oy, hit.oz, 1);
  hit.localZ = local(m, 64, hit.ox, hit.oy, hit.oz, 1);
  hit.alongX = local(m, 0, hit.dx, hit.dy, hit.dz, 0);
  hit.alongY = local(m, 32, hit.dx, hit.dy, hit.dz, 0);
  hit.alongZ = local(m, 64, hit.dx, hit.dy, hit.dz, 0);
}

/** The ray in a resting thing's space, in double precision. */
function toResting(hit: Hit, it: usize): void {
  if (word(it, I_FLAGS) & FLAG_IDENTITY) {
    hit.localX = hit.ox;
    hit.localY = hit.oy;
    hit.localZ = hit.oz;
    hit.alongX = hit.dx;
    hit.alongY = hit.dy;
    hit.alongZ = hit.dz;
    return;
  }
  // The columns lie ready in fours: x and y go together.
  const columns = it + ((<usize>I_COLUMNS) << 2);
  const ax = f64x2.promote_low_f32x4(v128.load64_zero(columns));
  const bx = f64x2.promote_low_f32x4(v128.load64_zero(columns, 16));
  const cx = f64x2.promote_low_f32x4(v128.load64_zero(columns, 32));
  const az = <f64>load<f32>(columns, 8);
  const bz = <f64>load<f32>(columns, 24);
  const cz = <f64>load<f32>(columns, 40);
  const o = f64x2.add(
    f64x2.add(f64x2.mul(ax, f64x2.splat(hit.ox)), f64x2.mul(bx, f64x2.splat(hit.oy))),
    f64x2.add(f64x2.mul(cx, f64x2.splat(hit.oz)), f64x2.promote_low_f32x4(v128.load64_zero(columns, 48))),
  );
  const d = f64x2.add(
    f64x2.add(f64x2.mul(ax, f64x2.splat(hit.dx)), f64x2.mul(bx, f64x2.splat(hit.dy))),
    f64x2.mul(cx, f64x2.splat(hit.dz)),
  );
  v128.store(changetype<usize>(hit) + offsetof<Hit>('localX'), o);
  v128.store(changetype<usize>(hit) + offsetof<Hit>('alongX'), d);
  hit.localZ = az * hit.ox + bz * hit.oy + (cz * hit.oz + <f64>load<f32>(columns, 56));
  hit.alongZ = az * hit.dx + bz * hit.dy + cz * hit.dz;
}

/**
 * Walks one mesh with the ray in its own space, in single precision; what comes near a triangle is looked at again in
 * double. Distances are those of the world, whatever the local direction's length.
 */
// @ts-ignore: decorator
@inline
function walkTree(scene: Scene, hit: Hit, lanes: usize, number: i32, it: usize, any: bool, deforms: bool): bool {
  const mesh = changetype<Mesh>(<usize>word(it, I_MESH));
  const nodes = mesh.nodes;
  // The scratch row below the very first entry is shared; this walk's entries lie above the top level's.
  const row = hit.stack - 16;
  const base = hit.free;
  let top = base;
  let best = hit.best;
  let node: i32 = 0;
  for (;;) {
    if (node >= 0) {
      const met = enter(nodes + <usize>node * NODE_BYTES, lanes, row, top, best, false);
      if (met >= 0) {
        node = <i32>met;
        top += <usize>(met >> 32);
        continue;
      }
    } else {
      const met = deforms
        ? meetDeforming(scene, hit, lanes, mesh, number, it, -1 - node, any)
        : meetLeaf(scene, hit, lanes, mesh, number, it, -1 - node, any);
      if (met) return true;
      best = hit.best;
    }
    node = NONE;
    while (top != base) {
      top -= STACK_ENTRY;
      if (load<f32>(top) <= best) {
        node = load<i32>(top + 4);
        break;
      }
    }
    if (node == NONE) return false;
  }
  return false;
}

function walkMesh(scene: Scene, hit: Hit, lanes: usize, number: i32, it: usize, any: bool): bool {
  return walkTree(scene, hit, lanes, number, it, any, false);
}

function walkDeforming(scene: Scene, hit: Hit, lanes: usize, number: i32, it: usize, any: bool): bool {
  return walkTree(scene, hit, lanes, number, it, any, true);
}

/** Tests the triangles of a leaf. True when an any-hit walk may stop. */
// @ts-ignore: decorator
@inline
function meetLeaf(
  scene: Scene,
  hit: Hit,
  lanes: usize,
  mesh: Mesh,
  number: i32,
  it: usize,
  code: i32,
  any: bool,
): bool {
  let packet = mesh.packets + <usize>(code >> 3) * PACKET_BYTES;
  const last = packet + <usize>((code & 7) + 1) * PACKET_BYTES;
  for (; packet < last; packet += PACKET_BYTES) {
    let found = candidates(packet, lanes, hit.best);
    if (found == 0) continue;
    if (hit.known != number) {
      hit.known = number;
      toResting(hit, it);
    }
    while (found != 0) {
      const lane = (<usize>ctz(found)) << 2;
      found &= found - 1;
      const triangle = load<i32>(packet + IDS + lane);
      if (triangle < 0 || !exact(packet + lane, hit)) continue;
      if (!any) {
        hit.best = <f32>hit.t;
        hit.triangle = triangle;
        hit.corner = packet + lane;
        hit.instance = number;
        continue;
      }
      // Any-hit asks whether, not where: the reach stays.
      hit.t = hit.far;
      const slot = (<usize>load<u16>(mesh.slots + ((<usize>triangle) << 1))) << 1;
      if (material(scene, <i32>load<u16>(<usize>word(it, I_SLOTS) + slot), M_PASSES) == 0) return true;
      hit.through = 2;
    }
  }
  return false;
}

/** The same for a mesh that deforms: its triangles are brought to where they are when the ray is cast. */
function meetDeforming(
  scene: Scene,
  hit: Hit,
  lanes: usize,
  mesh: Mesh,
  number: i32,
  it: usize,
  code: i32,
  any: bool,
): bool {
  const packet = hit.blend;
  let from = mesh.packets + <usize>(code >> 3) * PACKET_BYTES;
  const last = from + <usize>((code & 7) + 1) * PACKET_BYTES;
  for (; from < last; from += PACKET_BYTES) {
    blendPacket(from, mesh.closing, hit.time, packet);
    let found = candidates(packet, lanes, hit.best);
    if (found == 0) continue;
    if (hit.known != number) {
      hit.known = number;
      toResting(hit, it);
    }
    while (found != 0) {
      const lane = (<usize>ctz(found)) << 2;
      found &= found - 1;
      const triangle = load<i32>(packet + IDS + lane);
      if (triangle < 0 || !exact(packet + lane, hit)) continue;
      if (!any) {
        hit.best = <f32>hit.t;
        hit.triangle = triangle;
        memory.copy(hit.stash, packet, PACKET_BYTES);
        hit.corner = hit.stash + lane;
        hit.instance = number;
        continue;
      }
      hit.t = hit.far;
      const slot = (<usize>load<u16>(mesh.slots + ((<usize>triangle) << 1))) << 1;
      if (material(scene, <i32>load<u16>(<usize>word(it, I_SLOTS) + slot), M_PASSES) == 0) return true;
      hit.through = 2;
    }
  }
  return false;
}
