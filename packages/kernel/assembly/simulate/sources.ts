import { at, four, Grid, put } from './grid';

/** Cells that give off smoke, 48 bytes each: | cell (i32) | density a second | heat, degrees | share 0..1 | velocity x y z, cells a second | share of velocity |
 * red, green, blue, unused | */
const SOURCE: usize = 48;

/** Gives off density and heat for a step. */
export function emit(g: Grid, list: usize, count: i32, dt: f32): void {
  for (let n = 0; n < count; n++) {
    const s = list + <usize>n * SOURCE;
    const cell = load<i32>(s);
    const share = load<f32>(s + 12);
    const given = load<f32>(s + 4) * share * dt;
    put(g.density, cell, at(g.density, cell) + given);
    if (g.red !== 0) {
      put(g.red, cell, at(g.red, cell) + load<f32>(s + 32) * given);
      put(g.green, cell, at(g.green, cell) + load<f32>(s + 36) * given);
      put(g.blue, cell, at(g.blue, cell) + load<f32>(s + 40) * given);
    }
    const heat = load<f32>(s + 8) * share;
    if (heat > at(g.heat, cell)) put(g.heat, cell, heat);
  }
}

/** Brings changes of velocity to what sources blow out with. */
export function blow(g: Grid, list: usize, count: i32): void {
  for (let n = 0; n < count; n++) {
    const s = list + <usize>n * SOURCE;
    const share = load<f32>(s + 28);
    if (share <= 0) continue;
    const at16 = (<usize>load<i32>(s)) << 4;
    const target = f32x4.replace_lane(v128.load(s + 16), 3, 0);
    const was = four(g.centre + at16);
    const now = f32x4.add(was, four(g.force + at16));
    const brought = f32x4.add(now, f32x4.mul(f32x4.sub(target, now), f32x4.splat(share)));
    v128.store(g.force + at16, f32x4.sub(brought, was));
  }
}

/** Faces at solids take the velocity of the solid. */
export function keepWalls(g: Grid): void {
  for (let n = 0; n < g.wallCount; n++) {
    const index = load<i32>(g.walls + ((<usize>n) << 2));
    const axis = index >>> 28;
    put(axis === 0 ? g.u : axis === 1 ? g.v : g.w, index & 0x0fffffff, at(g.wallSpeeds, n));
  }
}
