import { chanceOf, chooseLight, LightChoice } from './light-tree';
import { lightAt, placed } from './light-shapes';
import { clamp01, cosTurn, sinTurn } from './maths';
import {
  at,
  I_LIGHTS,
  I_MASK,
  instance,
  L_AREA,
  L_CENTRE,
  L_CONE_INNER,
  L_CONE_OUTER,
  L_GOBO,
  L_GOBO_DISTANCE,
  L_GOBO_HEIGHT,
  L_GOBO_WIDTH,
  L_INSTANCE,
  L_KIND,
  L_LINK,
  L_NORMAL,
  L_PASS,
  L_RADIANCE,
  L_RADIUS,
  L_GRID_ANGLE,
  L_TEXTURE,
  L_TRIANGLE,
  L_U,
  L_V,
  LIGHT_DISC,
  LIGHT_POINT,
  LIGHT_RECT,
  LIGHT_SPHERE,
  LIGHT_SUN,
  LIGHT_TRIANGLE,
  Scene,
  word,
} from './scene';
import { Surface } from './surface';
import { sampleTexture } from './texture';

/** Where light is received: what the choice of a light depends on. */
@unmanaged
export class Receiver {
  x: f64;
  y: f64;
  z: f64;
  nx: f64;
  ny: f64;
  nz: f64;
  /** False where light may come from both sides. */
  facing: bool;
  /** Thing the point lies on, for links; -1 in smoke. */
  thing: i32;
}

/** Samples and evaluates lights and the room. */
@unmanaged
export class Lights {
  scene: Scene;
  choice: LightChoice;
  /** For glowing triangles. */
  surface: Surface;
  time: f64;
  /** Direction of the last sample, distance to it, its radiance, and its density per solid angle (0: no light). */
  dx: f64;
  dy: f64;
  dz: f64;
  distance: f64;
  r: f64;
  g: f64;
  b: f64;
  pdf: f64;
  /** True when no other way than sampling finds this light: points, and suns without size. */
  only: bool;
  /** Number of the light last sampled, -1 for the room. */
  light: i32;
  hasRoom: bool;
  /** Light was last sampled from all lights at once: none was chosen before. */
  each: bool;
  t0: f64;
  t1: f64;
  t2: f64;
  t3: f64;

  passOf(light: i32): i32 {
    return <i32>at(lightAt(this.scene, light), L_PASS);
  }

  /** Which rays meet the light of the sample at hand: all, but for a glowing thing that hides from some. */
  mask(): i32 {
    if (this.light < 0) return -1;
    const l = lightAt(this.scene, this.light);
    if (<i32>at(l, L_KIND) != LIGHT_TRIANGLE) return -1;
    return word(instance(this.scene, <i32>at(l, L_INSTANCE)), I_MASK);
  }

  linked(light: i32, thing: i32): bool {
    const link = <i32>at(lightAt(this.scene, light), L_LINK);
    if (link < 0 || thing < 0) return true;
    return load<u8>(this.scene.links + <usize>(link * this.scene.thingCount + thing)) != 0;
  }

  /** A point on one light, chosen by estimated share. `choice`, `u`, `v` in [0, 1). pdf includes the choice. */
  sample(to: Receiver, choice: f64, u: f64, v: f64): bool {
    this.pdf = 0;
    // Also where no light can reach: what a path finds there by chance is weighed by the tree.
    this.each = false;
    if (!chooseLight(this.scene, choice, to.x, to.y, to.z, to.nx, to.ny, to.nz, to.facing, this.choice)) return false;
    const found = this.sampleLight(this.choice.light, to, u, v);
    this.pdf *= this.choice.chance;
    return found;
  }

  /** A point on light `light`; pdf is its own. */
  sampleLight(light: i32, to: Receiver, u: f64, v: f64): bool {
    this.pdf = 0;
    this.light = light;
    this.only = false;
    if (!this.linked(light, to.thing)) return false;
    const l = lightAt(this.scene, light);
    const kind = <i32>at(l, L_KIND);
    const time = this.time;
    if (kind == LIGHT_SUN) {
      if (!this.sampleSun(l, u, v)) return false;
    } else {
      const cx = placed(l, L_CENTRE, time);
      const cy = placed(l, L_CENTRE + 1, time);
      const cz = placed(l, L_CENTRE + 2, time);
      if (kind == LIGHT_SPHERE) {
        if (!this.sampleSphere(l, cx - to.x, cy - to.y, cz - to.z, u, v)) return false;
      } else {
        let s: f64 = 0;
        let t: f64 = 0;
        if (kind == LIGHT_RECT) {
          s = u * 2 - 1;
          t = v * 2 - 1;
        } else if (kind == LIGHT_DISC) {
          const r = Math.sqrt(u);
          s = r * cosTurn(v);
          t = r * sinTurn(v);
        } else if (kind == LIGHT_TRIANGLE) {
          const r = Math.sqrt(u);
          s = 1 - r;
          t = v * r;
        }
        const dx = cx + placed(l, L_U, time) * s + placed(l, L_V, time) * t - to.x;
        const dy = cy + placed(l, L_U + 1, time) * s + placed(l, L_V + 1, time) * t - to.y;
        const dz = cz + placed(l, L_U + 2, time) * s + placed(l, L_V + 2, time) * t - to.z;
        const d2 = dx * dx + dy * dy + dz * dz;
        const d = Math.sqrt(d2);
        this.dx = dx / d;
        this.dy = dy / d;
        this.dz = dz / d;
        this.distance = d;
        if (kind == LIGHT_POINT) {
          // A point has no area: its "radiance" is intensity over distance squared, its density the choice alone.
          this.only = true;
          this.pdf = d2;
        } else {
          let cos = -(
            this.dx * placed(l, L_NORMAL, time) +
            this.dy * placed(l, L_NORMAL + 1, time) +
            this.dz * placed(l, L_NORMAL + 2, time)
          );
          if (kind == LIGHT_TRIANGLE) cos = Math.abs(cos);
          if (!(cos > 1e-6)) return false;
          this.pdf = d2 / (cos * at(l, L_AREA));
        }
        if (kind == LIGHT_TRIANGLE) {
          this.glow(l, s, t);
          return this.r + this.g + this.b > 0;
        }
      }
    }
    this.emission(l, kind, this.dx, this.dy, this.dz, this.distance, to.x, to.y, to.z);
    return this.r + this.g + this.b > 0;
  }

  sampleSun(l: usize, u: f64, v: f64): bool {
    const cosMax = at(l, L_RADIUS);
    const time = this.time;
    this.distance = Infinity;
    this.only = cosMax >= 1;
    const z = 1.0 - u * (1.0 - cosMax);
    this.aroundAxis(-placed(l, L_NORMAL, time), -placed(l, L_NORMAL + 1, time), -placed(l, L_NORMAL + 2, time), z, v);
    this.pdf = this.only ? 1.0 : 1.0 / (2.0 * Math.PI * (1.0 - cosMax));
    return true;
  }

  sampleSphere(l: usize, cx: f64, cy: f64, cz: f64, u: f64, v: f64): bool {
    const radius = at(l, L_RADIUS);
    const d2 = cx * cx + cy * cy + cz * cz;
    const sin2 = (radius * radius) / d2;
    if (sin2 >= 1) return false;
    const cosMax = Math.sqrt(1.0 - sin2);
    // 1 - cosMax without cancellation for far small spheres.
    const cap = sin2 / (1.0 + cosMax);
    const z = 1.0 - u * cap;
    const d = Math.sqrt(d2);
    this.aroundAxis(cx / d, cy / d, cz / d, z, v);
    const off = d2 * (1.0 - z * z);
    this.distance = d * z - Math.sqrt(Math.max(0.0, radius * radius - off));
    this.pdf = 1.0 / (2.0 * Math.PI * cap);
    return true;
  }

  /** The direction at cosine `z` from an axis and `v` of a turn round it. */
  aroundAxis(ax: f64, ay: f64, az: f64, z: f64, v: f64): void {
    const sign: f64 = az >= 0 ? 1.0 : -1.0;
    const a = -1.0 / (sign + az);
    const b = ax * ay * a;
    const r = Math.sqrt(Math.max(0.0, 1.0 - z * z));
    const x = r * cosTurn(v);
    const y = r * sinTurn(v);
    this.dx = (1.0 + sign * ax * ax * a) * x + b * y + ax * z;
    this.dy = sign * b * x + (sign + ay * ay * a) * y + ay * z;
    this.dz = -sign * ax * x - ay * y + az * z;
  }

  /** Emission of a glowing triangle at barycentrics of its edges. */
  glow(l: usize, s: f64, t: f64): void {
    this.surface.atListed(<i32>at(l, L_INSTANCE), <i32>at(l, L_TRIANGLE), s, t, this.time);
    this.r = this.surface.er;
    this.g = this.surface.eg;
    this.b = this.surface.eb;
  }

  /** What light `l` sends along -d over distance `t` to a point, with its honeycomb, cone, gradient and gobo; into r, g, b. */
  emission(l: usize, kind: i32, dx: f64, dy: f64, dz: f64, t: f64, x: f64, y: f64, z: f64): void {
    this.r = at(l, L_RADIANCE);
    this.g = at(l, L_RADIANCE + 1);
    this.b = at(l, L_RADIANCE + 2);
    const outer = at(l, L_CONE_OUTER);
    const spread = at(l, L_GRID_ANGLE);
    const picture = at(l, L_TEXTURE);
    const gobo = at(l, L_GOBO);
    if (outer <= -1 && spread <= 0 && picture < 0 && gobo < 0) return;
    const time = this.time;
    const nx = placed(l, L_NORMAL, time);
    const ny = placed(l, L_NORMAL + 1, time);
    const nz = placed(l, L_NORMAL + 2, time);
    const cos = -(dx * nx + dy * ny + dz * nz);
    let share: f64 = 1;
    if (outer > -1) {
      const inner = at(l, L_CONE_INNER);
      const k = clamp01((cos - outer) / Math.max(1e-6, inner - outer));
      share = k * k * (3.0 - 2.0 * k);
    }
    if (spread > 0 && share > 0) {
      // A cell of a honeycomb shows less of the light behind it in proportion to the tangent.
      const tan = cos > 0 ? Math.sqrt(Math.max(0.0, 1.0 - cos * cos)) / cos : 1e9;
      share *= Math.max(0.0, 1.0 - tan / spread);
    }
    if (share <= 0) {
      this.r = 0;
      this.g = 0;
      this.b = 0;
      return;
    }
    this.r *= share;
    this.g *= share;
    this.b *= share;
    if (kind == LIGHT_SUN || (picture < 0 && gobo < 0)) return;
    const px = x + dx * t - placed(l, L_CENTRE, time);
    const py = y + dy * t - placed(l, L_CENTRE + 1, time);
    const pz = z + dz * t - placed(l, L_CENTRE + 2, time);
    const ux = placed(l, L_U, time);
    const uy = placed(l, L_U + 1, time);
    const uz = placed(l, L_U + 2, time);
    const vx = placed(l, L_V, time);
    const vy = placed(l, L_V + 1, time);
    const vz = placed(l, L_V + 2, time);
    const uu = ux * ux + uy * uy + uz * uz;
    const vv = vx * vx + vy * vy + vz * vz;
    if (picture >= 0) {
      const s = (px * ux + py * uy + pz * uz) / uu;
      const w = (px * vx + py * vy + pz * vz) / vv;
      this.filter(<i32>picture, s * 0.5 + 0.5, 0.5 - w * 0.5);
    }
    if (gobo >= 0 && cos > 0) {
      const reach = at(l, L_GOBO_DISTANCE) / cos;
      // In front of the slide nothing has been held back yet.
      if (t <= reach) return;
      const qx = px - dx * reach;
      const qy = py - dy * reach;
      const qz = pz - dz * reach;
      const s = (qx * ux + qy * uy + qz * uz) / (Math.sqrt(uu) * at(l, L_GOBO_WIDTH));
      const w = (qx * vx + qy * vy + qz * vz) / (Math.sqrt(vv) * at(l, L_GOBO_HEIGHT));
      if (Math.abs(s) > 1 || Math.abs(w) > 1) {
        this.r = 0;
        this.g = 0;
        this.b = 0;
        return;
      }
      this.filter(<i32>gobo, s * 0.5 + 0.5, 0.5 - w * 0.5);
    }
  }

  filter(texture: i32, s: f64, t: f64): void {
    sampleTexture(this.scene, texture, s, t, 0, changetype<usize>(this) + offsetof<Lights>('t0'));
    this.r *= this.t0;
    this.g *= this.t1;
    this.b *= this.t2;
  }

  /** Radiance of a light's shape that was hit from (x, y, z) at distance `t`; density of sampling it from `to` into pdf. */
  hit(light: i32, x: f64, y: f64, z: f64, dx: f64, dy: f64, dz: f64, t: f64): void {
    const l = lightAt(this.scene, light);
    this.emission(l, <i32>at(l, L_KIND), dx, dy, dz, t, x, y, z);
  }

  /** Density with which light was last sampled, for `to`, that it gives the direction that meets `light` at distance `t`. */
  density(to: Receiver, light: i32, dx: f64, dy: f64, dz: f64, t: f64): f64 {
    const scene = this.scene;
    if (!this.linked(light, to.thing)) return 0;
    const l = lightAt(scene, light);
    const kind = <i32>at(l, L_KIND);
    const time = this.time;
    let pdf: f64 = 0;
    if (kind == LIGHT_SPHERE) {
      const cx = placed(l, L_CENTRE, time) - to.x;
      const cy = placed(l, L_CENTRE + 1, time) - to.y;
      const cz = placed(l, L_CENTRE + 2, time) - to.z;
      const radius = at(l, L_RADIUS);
      const sin2 = (radius * radius) / (cx * cx + cy * cy + cz * cz);
      if (sin2 >= 1) return 0;
      pdf = (1.0 + Math.sqrt(1.0 - sin2)) / (2.0 * Math.PI * sin2);
    } else {
      let cos = -(
        dx * placed(l, L_NORMAL, time) +
        dy * placed(l, L_NORMAL + 1, time) +
        dz * placed(l, L_NORMAL + 2, time)
      );
      if (kind == LIGHT_TRIANGLE) cos = Math.abs(cos);
      if (!(cos > 1e-6)) return 0;
      pdf = (t * t) / (cos * at(l, L_AREA));
    }
    if (this.each) return pdf;
    return pdf * chanceOf(scene, light, to.x, to.y, to.z, to.nx, to.ny, to.nz, to.facing, this.choice);
  }

  /** The light that a glowing triangle is, -1 for none. */
  lightOf(number: i32, triangle: i32): i32 {
    const lights = word(instance(this.scene, number), I_LIGHTS);
    return lights == 0 ? -1 : load<i32>(<usize>lights + ((<usize>triangle) << 2));
  }

  /** Whether sun `index` shines along a direction, for paths that leave the set; density of sampling it into pdf. */
  sunAlong(index: i32, dx: f64, dy: f64, dz: f64): bool {
    const l = lightAt(this.scene, index);
    const cosMax = at(l, L_RADIUS);
    if (cosMax >= 1) return false;
    const cos = -(dx * at(l, L_NORMAL) + dy * at(l, L_NORMAL + 1) + dz * at(l, L_NORMAL + 2));
    if (cos < cosMax) return false;
    this.r = at(l, L_RADIANCE);
    this.g = at(l, L_RADIANCE + 1);
    this.b = at(l, L_RADIANCE + 2);
    const share: f64 = this.scene.treeNodes > 0 ? 0.5 : 1.0;
    const chance = this.each ? 1.0 : share / <f64>this.scene.sunCount;
    this.pdf = chance / (2.0 * Math.PI * (1.0 - cosMax));
    return true;
  }
}
