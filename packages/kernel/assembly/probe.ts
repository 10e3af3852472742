import { Path } from './path-state';
import { roomAt, sampleRoom } from './room';

/** Single lobes and lights, for tests that hold them against what can be worked out. `out` gets doubles. */

function prepare(path: Path, instance: i32, triangle: i32, vx: f64, vy: f64, vz: f64): void {
  const s = path.surface;
  s.atListed(instance, triangle, 0.25, 0.25, 0);
  path.bsdf.prepare(s, path.scene, s.nx, s.ny, s.nz, vx, vy, vz);
}

function writeLobes(path: Path, out: usize): void {
  const b = path.bsdf;
  store<f64>(out, b.dr);
  store<f64>(out, b.dg, 8);
  store<f64>(out, b.db, 16);
  store<f64>(out, b.gr, 24);
  store<f64>(out, b.gg, 32);
  store<f64>(out, b.gb, 40);
  store<f64>(out, b.mirror, 48);
  store<f64>(out, b.pdf, 56);
}

/** Opaque lobes for a view and a light direction: diffuse, glossy (3 each), mirror, density. */
export function evaluateLobes(
  scratch: usize,
  instance: i32,
  triangle: i32,
  directions: usize,
  count: i32,
  out: usize,
): void {
  const path = changetype<Path>(scratch);
  prepare(path, instance, triangle, load<f64>(directions), load<f64>(directions, 8), load<f64>(directions, 16));
  for (let i = 0; i < count; i++) {
    const p = directions + 24 + <usize>i * 24;
    path.bsdf.evaluate(load<f64>(p), load<f64>(p, 8), load<f64>(p, 16));
    writeLobes(path, out + ((<usize>i) << 6));
  }
}

/** Directions drawn with numbers (3 a draw) for one view: lobes as above, then the direction; density 0 for a miss. */
export function sampleLobes(
  scratch: usize,
  instance: i32,
  triangle: i32,
  numbers: usize,
  count: i32,
  out: usize,
): void {
  const path = changetype<Path>(scratch);
  prepare(path, instance, triangle, load<f64>(numbers), load<f64>(numbers, 8), load<f64>(numbers, 16));
  for (let i = 0; i < count; i++) {
    const p = numbers + 24 + <usize>i * 24;
    const to = out + <usize>i * 88;
    const found = path.bsdf.sample(load<f64>(p), load<f64>(p, 8), load<f64>(p, 16));
    writeLobes(path, to);
    if (!found) store<f64>(to, 0, 56);
    store<f64>(to, path.bsdf.lx, 64);
    store<f64>(to, path.bsdf.ly, 72);
    store<f64>(to, path.bsdf.lz, 80);
  }
}

function prepareGlass(path: Path, view: usize, roughness: f64, eta: f64, thin: bool): void {
  path.glass.prepare(
    path.scene.tables,
    0,
    1,
    0,
    load<f64>(view),
    load<f64>(view, 8),
    load<f64>(view, 16),
    roughness,
    eta,
    thin,
  );
}

/** Rough glass with its normal along y: value times cosine, density. */
export function evaluateGlass(
  scratch: usize,
  roughness: f64,
  eta: f64,
  thin: bool,
  directions: usize,
  count: i32,
  out: usize,
): void {
  const path = changetype<Path>(scratch);
  prepareGlass(path, directions, roughness, eta, thin);
  for (let i = 0; i < count; i++) {
    const p = directions + 24 + <usize>i * 24;
    path.glass.evaluate(load<f64>(p), load<f64>(p, 8), load<f64>(p, 16));
    store<f64>(out + <usize>i * 16, path.glass.value);
    store<f64>(out + <usize>i * 16, path.glass.pdf, 8);
  }
}

/** Directions drawn at rough glass: value, density (0: a miss), direction. */
export function sampleGlass(
  scratch: usize,
  roughness: f64,
  eta: f64,
  thin: bool,
  numbers: usize,
  count: i32,
  out: usize,
): void {
  const path = changetype<Path>(scratch);
  const glass = path.glass;
  prepareGlass(path, numbers, roughness, eta, thin);
  for (let i = 0; i < count; i++) {
    const p = numbers + 24 + <usize>i * 24;
    const to = out + <usize>i * 40;
    const found = glass.sample(load<f64>(p), load<f64>(p, 8), load<f64>(p, 16));
    store<f64>(to, glass.value);
    store<f64>(to, found ? glass.pdf : 0.0, 8);
    store<f64>(to, glass.lx, 16);
    store<f64>(to, glass.ly, 24);
    store<f64>(to, glass.lz, 32);
  }
}

/**
 * Lights sampled from a point (position and normal, 6 doubles, then 3 numbers a draw): light, density, radiance (green),
 * direction, distance, and the density that meeting it reports; -1 for the room, -2 for none.
 */
export function sampleLight(scratch: usize, room: bool, numbers: usize, count: i32, out: usize): void {
  const path = changetype<Path>(scratch);
  const lights = path.lights;
  const to = path.from;
  to.x = load<f64>(numbers);
  to.y = load<f64>(numbers, 8);
  to.z = load<f64>(numbers, 16);
  to.nx = load<f64>(numbers, 24);
  to.ny = load<f64>(numbers, 32);
  to.nz = load<f64>(numbers, 40);
  to.facing = to.nx != 0 || to.ny != 0 || to.nz != 0;
  to.thing = -1;
  for (let i = 0; i < count; i++) {
    const p = numbers + 48 + <usize>i * 24;
    const at = out + <usize>i * 64;
    const found = room
      ? sampleRoom(lights, load<f64>(p, 8), load<f64>(p, 16))
      : lights.sample(to, load<f64>(p), load<f64>(p, 8), load<f64>(p, 16));
    store<f64>(at, found ? <f64>lights.light : -2.0);
    store<f64>(at, lights.pdf, 8);
    store<f64>(at, lights.g, 16);
    store<f64>(at, lights.dx, 24);
    store<f64>(at, lights.dy, 32);
    store<f64>(at, lights.dz, 40);
    store<f64>(at, lights.distance, 48);
    if (!found) continue;
    let other: f64 = 0;
    if (room) {
      roomAt(lights, lights.dx, lights.dy, lights.dz);
      other = lights.pdf;
    } else if (lights.distance == Infinity) {
      const light = lights.light;
      lights.sunAlong(light, lights.dx, lights.dy, lights.dz);
      other = lights.pdf;
    } else other = lights.density(to, lights.light, lights.dx, lights.dy, lights.dz, lights.distance);
    store<f64>(at, other, 56);
  }
}
