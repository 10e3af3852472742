import { mat4, quat, vec3 } from 'gl-matrix';
import { DEGREES, type Mat4, type Quaternion, type Vec3 } from '../../geometry/index.ts';
import { cos, hypot, sin } from '../../maths/index.ts';
import type { Body, BodySettings } from './body.ts';

/** Metres a second squared. */
export const GRAVITY = 9.81;

/** How a body begins: its pose, and how it moves. */
export interface Start {
  position: Vec3;
  rotation: Quaternion;
  velocity: Vec3;
  /** Radians a second. */
  spin: Vec3;
}

/** How a body goes over the floor. */
export interface Roll {
  /** Metres; 0 when it is no ball, and slides. */
  radius: number;
  /** Of a circle on the floor that it fits in. */
  reach: number;
  /** Share of its speed that it loses rolling: spin slowed by a damping takes its way along (a solid ball: 2/7 of it), 1/s. */
  rate: number;
}

/** How often a direction is drawn anew to find a beginning that is clear of others. */
const DRAWS = 24;

/** A placement as scale, rotation and place. */
export function apart(m: Mat4): { scale: number; rotation: Quaternion; position: Vec3 } {
  const scale = mat4.getScaling([0, 0, 0], m as mat4)[0] || 1;
  return {
    scale,
    rotation: mat4.getRotation([0, 0, 0, 1], m as mat4) as Quaternion,
    position: [m[12], m[13], m[14]],
  };
}

/**
 * How all bodies begin, by the way in which they come in; strewn and turned by numbers from the seed.
 * @param rolls of those that come rolling.
 */
export function startsOf(
  bodies: readonly Body[],
  settings: BodySettings,
  random: () => number,
  rolls: readonly Roll[] = [],
): Start[] {
  const homes = bodies.map(({ matrix }) => apart(matrix));
  const middle = [0, 1, 2].map((a) => homes.reduce((sum, h) => sum + h.position[a], 0) / homes.length) as Vec3;
  const begun: Array<{ from: Vec3; reach: number }> = [];
  return homes.map(({ position: [x, y, z], rotation }, n) => {
    const [jx, jz] = [random(), random()].map((v) => (v - 0.5) * 2 * settings.spread);
    const axis = vec3.normalize([0, 0, 0], [random() - 0.5, random() - 0.5, random() - 0.5]);
    const angle = (random() * 2 - 1) * settings.tumble * DEGREES;
    const still = { velocity: [0, 0, 0] as Vec3, spin: [0, 0, 0] as Vec3 };
    const turned = quat.multiply([0, 0, 0, 1], about(axis as Vec3, angle), rotation) as Quaternion;
    const high = settings.height + n * settings.stagger;
    switch (settings.way) {
      case 'drop':
        return { ...still, position: [x + jx, y + high, z + jz], rotation: turned };
      case 'pour':
        return { ...still, position: [middle[0] + jx, middle[1] + high, middle[2] + jz], rotation: turned };
      case 'struck':
        return { ...still, ...bodies[n].motion, position: [x, y, z], rotation };
      case 'hang':
        return { ...still, position: [x + jx, y, z + jz], rotation: turned };
      case 'roll': {
        const far = settings.away + n * settings.stagger;
        const { radius, reach, rate } = rolls[n];
        let way = 0;
        let from: Vec3 = [x, y, z];
        for (let draw = 0; draw < DRAWS; draw++) {
          way = (settings.direction + (random() * 2 - 1) * settings.tumble) * DEGREES;
          from = [x + jx + far * sin(way), y, z + jz + far * cos(way)];
          if (!begun.some((b) => hypot(b.from[0] - from[0], b.from[2] - from[2]) < b.reach + reach)) break;
        }
        begun.push({ from, reach });
        // What slides is stopped by friction alone: v^2 = 2 mu g s.
        const speed = radius > 0 ? far * rate : Math.sqrt(2 * settings.friction * GRAVITY * far);
        const [vx, vz] = [-speed * sin(way), -speed * cos(way)];
        return {
          position: from,
          rotation,
          velocity: [vx, 0, vz],
          spin: radius > 0 ? [vz / radius, 0, -vx / radius] : [0, 0, 0],
        };
      }
      case 'throw': {
        const way = settings.direction * DEGREES;
        const far = settings.away + n * settings.stagger;
        // Those from further off are in the air for longer, so that they come one after the other.
        const flight = settings.flight * (far / Math.max(1e-6, settings.away));
        const position: Vec3 = [x + jx + far * sin(way), y + settings.height, z + jz + far * cos(way)];
        const velocity = [x, y, z].map((to, a) => (to - position[a]) / flight) as Vec3;
        velocity[1] += (GRAVITY * flight) / 2;
        return { position, rotation, velocity, spin: [...axis].map((v) => (v * angle) / flight) as Vec3 };
      }
    }
  });
}

/** A rotation about an axis of length 1, radians. */
export function about(axis: Vec3, angle: number): Quaternion {
  const s = sin(angle / 2);
  return [axis[0] * s, axis[1] * s, axis[2] * s, cos(angle / 2)];
}

/** A vector turned by a rotation. */
export function turned(by: Quaternion, v: Vec3): Vec3 {
  const [x, y, z, w] = by;
  const t = [2 * (y * v[2] - z * v[1]), 2 * (z * v[0] - x * v[2]), 2 * (x * v[1] - y * v[0])];
  return [
    v[0] + w * t[0] + y * t[2] - z * t[1],
    v[1] + w * t[1] + z * t[0] - x * t[2],
    v[2] + w * t[2] + x * t[1] - y * t[0],
  ];
}
