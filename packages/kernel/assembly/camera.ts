import {
  C_APERTURE,
  C_ASPECT,
  C_BEFORE,
  C_BLADE_ROTATION,
  C_BLADES,
  C_CLOSE,
  C_FOCUS,
  C_OPEN,
  C_SHIFT_X,
  C_SHIFT_Y,
  C_TANGENT,
  C_TANGENT_BEFORE,
} from './layout';
import { cosTurn, sinTurn } from './maths';
import { at, Scene } from './scene';

/** A thin lens that moves while the shutter is open: all rays of a picture point meet on the plane of focus. */
@unmanaged
export class Camera {
  ox: f64;
  oy: f64;
  oz: f64;
  dx: f64;
  dy: f64;
  dz: f64;
  lx: f64;
  ly: f64;
  /** Where project() put a point, in pixels. */
  px: f64;
  py: f64;

  /** The ray through picture point (px, py), -1..1 and +y up, from lens sample (u, v) at `time` of the shutter. */
  cast(scene: Scene, px: f64, py: f64, u: f64, v: f64, time: f64): void {
    const c = scene.camera;
    this.lens(c, u, v);
    const f = at(c, C_FOCUS);
    const tangent = at(c, C_TANGENT);
    const vx = (px + at(c, C_SHIFT_X)) * tangent * at(c, C_ASPECT) - this.lx / f;
    const vy = (py + at(c, C_SHIFT_Y)) * tangent - this.ly / f;
    const moving = scene.moving != 0;
    const rx = part(c, 0, time, moving);
    const ry = part(c, 1, time, moving);
    const rz = part(c, 2, time, moving);
    const ux = part(c, 3, time, moving);
    const uy = part(c, 4, time, moving);
    const uz = part(c, 5, time, moving);
    const dx = rx * vx + ux * vy - part(c, 6, time, moving);
    const dy = ry * vx + uy * vy - part(c, 7, time, moving);
    const dz = rz * vx + uz * vy - part(c, 8, time, moving);
    const l = 1.0 / Math.sqrt(dx * dx + dy * dy + dz * dz);
    this.dx = dx * l;
    this.dy = dy * l;
    this.dz = dz * l;
    this.ox = part(c, 9, time, moving) + rx * this.lx + ux * this.ly;
    this.oy = part(c, 10, time, moving) + ry * this.lx + uy * this.ly;
    this.oz = part(c, 11, time, moving) + rz * this.lx + uz * this.ly;
  }

  /** A point of the aperture: a disc, or a regular polygon of blades. */
  lens(c: usize, u: f64, v: f64): void {
    const radius = at(c, C_APERTURE);
    this.lx = 0;
    this.ly = 0;
    if (radius <= 0) return;
    const blades = at(c, C_BLADES);
    if (blades < 3) {
      const r = Math.sqrt(u) * radius;
      this.lx = r * cosTurn(v);
      this.ly = r * sinTurn(v);
      return;
    }
    const blade = Math.floor(v * blades);
    const along = v * blades - blade;
    const r = Math.sqrt(u) * radius;
    const turn = at(c, C_BLADE_ROTATION);
    const a = fraction(blade / blades + turn);
    const b = fraction((blade + 1.0) / blades + turn);
    this.lx = r * (cosTurn(a) * (1.0 - along) + cosTurn(b) * along);
    this.ly = r * (sinTurn(a) * (1.0 - along) + sinTurn(b) * along);
  }

  /** Where a world point lies in the picture, in pixels, now or in the frame before; false behind the camera. */
  project(scene: Scene, before: bool, x: f64, y: f64, z: f64, width: i32, height: i32): bool {
    const c = scene.camera;
    const o = before ? C_BEFORE : C_OPEN;
    const wx = x - at(c, o + 9);
    const wy = y - at(c, o + 10);
    const wz = z - at(c, o + 11);
    const depth = -(wx * at(c, o + 6) + wy * at(c, o + 7) + wz * at(c, o + 8));
    if (depth <= 1e-6) return false;
    const tangent = at(c, before ? C_TANGENT_BEFORE : C_TANGENT);
    const px =
      (wx * at(c, o) + wy * at(c, o + 1) + wz * at(c, o + 2)) / (depth * tangent * at(c, C_ASPECT)) - at(c, C_SHIFT_X);
    const py = (wx * at(c, o + 3) + wy * at(c, o + 4) + wz * at(c, o + 5)) / (depth * tangent) - at(c, C_SHIFT_Y);
    this.px = (px + 1.0) * 0.5 * <f64>width;
    this.py = (1.0 - py) * 0.5 * <f64>height;
    return true;
  }
}

// @ts-ignore: decorator
@inline
function part(c: usize, k: i32, time: f64, moving: bool): f64 {
  const a = at(c, k);
  return moving ? a + (at(c, C_CLOSE + k) - a) * time : a;
}

// @ts-ignore: decorator
@inline
function fraction(x: f64): f64 {
  return x - Math.floor(x);
}
