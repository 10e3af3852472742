import { buildTop, layOut, Work } from './build';
import { blended } from './placement';
import {
  at,
  FLAG_MOVING,
  I_FLAGS,
  I_KIND,
  I_MESH,
  instance,
  KIND_MESH,
  L_CENTRE,
  L_KIND,
  L_RADIUS,
  L_U,
  L_V,
  LIGHT_SPHERE,
  Mesh,
  Scene,
  word,
} from './scene';
import { lightAt, placed } from './light-shapes';


@unmanaged
class Box {
  minX: f64;
  minY: f64;
  minZ: f64;
  maxX: f64;
  maxY: f64;
  maxZ: f64;

  add(x: f64, y: f64, z: f64): void {
    this.minX = Math.min(this.minX, x);
    this.minY = Math.min(this.minY, y);
    this.minZ = Math.min(this.minZ, z);
    this.maxX = Math.max(this.maxX, x);
    this.maxY = Math.max(this.maxY, y);
    this.maxZ = Math.max(this.maxZ, z);
  }
}

/**
 * Builds a top level over `count` of a scene's instances from `first`: the only part that moves from frame to frame. Its
 * leaves count from `first`.
 * @param room 64 bytes to work in, @param start working memory as workBytes() asks. @returns wide nodes written at `out`.
 */
export function buildInstances(scene: Scene, room: usize, start: usize, out: usize, first: i32, count: i32): i32 {
  const work = layOut(start, count);
  const box = changetype<Box>(room);
  for (let i = 0; i < count; i++) addInstance(scene, work, box, first + i, i);
  return buildTop(work, count, out);
}

function reset(box: Box): void {
  box.minX = Infinity;
  box.minY = Infinity;
  box.minZ = Infinity;
  box.maxX = -Infinity;
  box.maxY = -Infinity;
  box.maxZ = -Infinity;
}

function addInstance(scene: Scene, work: Work, box: Box, number: i32, k: i32): void {
  const it = instance(scene, number);
  reset(box);
  if (word(it, I_KIND) == KIND_MESH) {
    const mesh = changetype<Mesh>(<usize>word(it, I_MESH));
    addBox(box, it, mesh.minX, mesh.minY, mesh.minZ, mesh.maxX, mesh.maxY, mesh.maxZ);
  } else {
    addLight(box, lightAt(scene, word(it, I_MESH)), 0);
    addLight(box, lightAt(scene, word(it, I_MESH)), 1);
  }
  put(work, box, k);
}

function put(work: Work, box: Box, k: i32): void {
  const p = work.boxes + ((<usize>k) << 5);
  // Boxes of matrices in single precision are a touch too tight for rays in double.
  const slack =
    1e-6 +
    1e-6 *
      (Math.abs(box.minX) +
        Math.abs(box.minY) +
        Math.abs(box.minZ) +
        Math.abs(box.maxX) +
        Math.abs(box.maxY) +
        Math.abs(box.maxZ));
  store<f32>(p, <f32>(box.minX - slack));
  store<f32>(p, <f32>(box.minY - slack), 4);
  store<f32>(p, <f32>(box.minZ - slack), 8);
  store<f32>(p, 0, 12);
  store<f32>(p, <f32>(box.maxX + slack), 16);
  store<f32>(p, <f32>(box.maxY + slack), 20);
  store<f32>(p, <f32>(box.maxZ + slack), 24);
  store<f32>(p, 0, 28);
}

/** A box of a thing's own space in the world, over the whole time the shutter is open. */
function addBox(box: Box, it: usize, x0: f32, y0: f32, z0: f32, x1: f32, y1: f32, z1: f32): void {
  const times = word(it, I_FLAGS) & FLAG_MOVING ? 2 : 1;
  for (let t = 0; t < times; t++) {
    const time = <f64>t;
    for (let corner = 0; corner < 8; corner++) {
      const x = <f64>(corner & 1 ? x1 : x0);
      const y = <f64>(corner & 2 ? y1 : y0);
      const z = <f64>(corner & 4 ? z1 : z0);
      box.add(
        blended(it, 0, time) * x + blended(it, 1, time) * y + blended(it, 2, time) * z + blended(it, 3, time),
        blended(it, 4, time) * x + blended(it, 5, time) * y + blended(it, 6, time) * z + blended(it, 7, time),
        blended(it, 8, time) * x + blended(it, 9, time) * y + blended(it, 10, time) * z + blended(it, 11, time),
      );
    }
  }
}

function addLight(box: Box, l: usize, time: f64): void {
  const x = placed(l, L_CENTRE, time);
  const y = placed(l, L_CENTRE + 1, time);
  const z = placed(l, L_CENTRE + 2, time);
  if (<i32>at(l, L_KIND) == LIGHT_SPHERE) {
    const r = at(l, L_RADIUS);
    box.add(x - r, y - r, z - r);
    box.add(x + r, y + r, z + r);
    return;
  }
  for (let corner = 0; corner < 4; corner++) {
    const s: f64 = corner & 1 ? 1.0 : -1.0;
    const t: f64 = corner & 2 ? 1.0 : -1.0;
    box.add(
      x + placed(l, L_U, time) * s + placed(l, L_V, time) * t,
      y + placed(l, L_U + 1, time) * s + placed(l, L_V + 1, time) * t,
      z + placed(l, L_U + 2, time) * s + placed(l, L_V + 2, time) * t,
    );
  }
}
