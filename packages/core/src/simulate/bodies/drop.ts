import type Rapier from '@dimforge/rapier3d-compat';
import { mat4, quat, vec3 } from 'gl-matrix';
import { DEGREES, transformPoint, type Mat4, type Mesh, type Quaternion, type Vec3 } from '../../geometry/index.ts';
import { cos, seeded, sin } from '../../maths/index.ts';
import { matrixOf } from '../../motion/index.ts';
import { framesToSeconds, type FrameRate } from '../../time/index.ts';

/** The library of rigid bodies, started: only who uses it has it loaded. */
export type BodyEngine = typeof Rapier;

/** A mesh of a thing, in the thing's own space. */
export interface BodyPart {
  mesh: Mesh;
  /** Its place in the model, when it has one of its own. */
  place?: Mat4;
  /** Kilograms per cubic metre. */
  density: number;
}

/** A thing that falls, or that others fall on; `matrix` brings its model to the set where it rests. */
export interface Body {
  id: string;
  parts: readonly BodyPart[];
  matrix: Mat4;
}

export interface DropSettings {
  /** Metres that they fall from above their places, and how much higher each one is than the one before. */
  height: number;
  stagger: number;
  /** Metres by which they are strewn about their places. */
  spread: number;
  /** Degrees by which they are turned any way at the start. */
  tumble: number;
  /** Share of its speed that a body keeps as it bounces, and Coulomb's coefficient. */
  bounce: number;
  friction: number;
  seed: number;
  rate: FrameRate;
}

/** Where a body is: metres, and its rotation. */
export interface BodyPose {
  position: Vec3;
  rotation: Quaternion;
}

/** Poses of each body frame by frame, from the start on, and the frame from which all of them rest. */
export interface Dropped {
  frames: ReadonlyMap<string, readonly BodyPose[]>;
  rests: number;
}

/** Steps a frame, of heaps of many bodies fewer, and frames after which bodies that still move are left as they are. */
const SUBSTEPS = { few: 8, many: 4 };
const MANY = 100;
const LONGEST = 240;
/** Metres and radians a second below which a body rests, and frames for which it has to. */
const STILL = { speed: 0.004, spin: 0.06, frames: 5 };
/** Vertices of a hull at most, and of those of all that fall: of many, each is told more coarsely. */
const HULL_POINTS = 1500;
const ALL_POINTS = 12_000;
/** Radians: the turn by which points on a sphere lie far apart. */
const GOLDEN = Math.PI * (3 - Math.sqrt(5));
/** Directions in which a hull keeps at least what reaches farthest. */
const LEAST_POINTS = 40;

/**
 * Drops things on a set and lets them settle. Each part is the convex hull of its mesh; what stands there already keeps its shape and
 * does not move. Deterministic: the same input gives the same poses in every host.
 * @param engine started. @param still what does not move, besides the floor at height 0.
 */
export function dropBodies(
  engine: BodyEngine,
  falling: readonly Body[],
  still: readonly Body[],
  settings: DropSettings,
): Dropped {
  const world = new engine.World({ x: 0, y: -9.81, z: 0 });
  const seconds = framesToSeconds(1, settings.rate);
  const substeps = falling.length > MANY ? SUBSTEPS.many : SUBSTEPS.few;
  world.integrationParameters.dt = seconds / substeps;
  // Products are a decimetre large: what counts as touching is measured by that.
  world.integrationParameters.lengthUnit = 0.05;
  world.integrationParameters.numSolverIterations = 8;
  const surface = <T extends { setFriction(v: number): T; setRestitution(v: number): T }>(collider: T): T =>
    collider.setFriction(settings.friction).setRestitution(settings.bounce);
  world.createCollider(surface(engine.ColliderDesc.cuboid(50, 1, 50).setTranslation(0, -1, 0)));
  for (const { parts, matrix } of still)
    for (const { mesh, place } of parts) {
      if (mesh.indices.length === 0) continue;
      world.createCollider(surface(engine.ColliderDesc.trimesh(placed(mesh, place, matrix), mesh.indices)));
    }
  const random = seeded(settings.seed);
  const hulls = falling.reduce((sum, { parts }) => sum + parts.length, 0);
  const points = Math.max(LEAST_POINTS, Math.min(HULL_POINTS, Math.floor(ALL_POINTS / Math.max(1, hulls))));
  const bodies = falling.map(({ id, parts, matrix }, n) => {
    const { scale, rotation, position } = apart(matrix);
    const jitter = [random(), random()].map((v) => (v - 0.5) * 2 * settings.spread);
    const start = quat.multiply([0, 0, 0, 1], randomTurn(random, settings.tumble), rotation);
    const [x, y, z] = position;
    const body = world.createRigidBody(
      engine.RigidBodyDesc.dynamic()
        .setTranslation(x + jitter[0], y + settings.height + n * settings.stagger, z + jitter[1])
        .setRotation({ x: start[0], y: start[1], z: start[2], w: start[3] })
        .setCcdEnabled(true),
    );
    for (const { mesh, place, density } of parts) {
      const hull = engine.ColliderDesc.convexHull(scaled(mesh, place, scale, points));
      if (hull) world.createCollider(surface(hull).setDensity(density), body);
    }
    return { id, body, poses: [] as BodyPose[] };
  });
  const keep = (): void => {
    for (const { body, poses } of bodies) {
      const [t, r] = [body.translation(), body.rotation()];
      poses.push({ position: [t.x, t.y, t.z], rotation: [r.x, r.y, r.z, r.w] });
    }
  };
  keep();
  let quiet = 0;
  let frame = 0;
  while (quiet < STILL.frames && frame < LONGEST) {
    for (let i = 0; i < substeps; i++) world.step();
    keep();
    frame++;
    quiet = bodies.every(({ body }) => resting(body)) ? quiet + 1 : 0;
  }
  world.free();
  return {
    frames: new Map(bodies.map(({ id, poses }) => [id, poses])),
    rests: quiet >= STILL.frames ? frame - STILL.frames + 1 : frame,
  };
}

function resting(body: { linvel(): Point; angvel(): Point; isSleeping(): boolean }): boolean {
  return body.isSleeping() || (length(body.linvel()) < STILL.speed && length(body.angvel()) < STILL.spin);
}

interface Point {
  x: number;
  y: number;
  z: number;
}
const length = ({ x, y, z }: Point): number => Math.sqrt(x * x + y * y + z * z);

/** Vertices in the set. */
function placed({ positions }: Mesh, place: Mat4 | undefined, matrix: Mat4): Float32Array {
  const out = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const own: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
    out.set(transformPoint(matrix, place ? transformPoint(place, own) : own), i);
  }
  return out;
}

/** Vertices in the thing's space, at its size; of more than `most`, those that reach farthest in so many directions. */
function scaled({ positions }: Mesh, place: Mat4 | undefined, scale: number, most: number): Float32Array {
  const points = new Float32Array(positions.length);
  for (let i = 0; i + 2 < positions.length; i += 3) {
    const own: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
    points.set(place ? transformPoint(place, own) : own, i);
  }
  for (let i = 0; i < points.length; i++) points[i] *= scale;
  if (points.length / 3 <= most) return points;
  if (most === HULL_POINTS) {
    const step = Math.floor(points.length / 3 / most);
    return points.filter((_, i) => Math.floor(i / 3) % step === 0);
  }
  const kept = new Set<number>();
  for (let n = 0; n < most; n++) {
    // Evenly round a sphere, each a golden turn from the one before.
    const y = 1 - (2 * n + 1) / most;
    const r = Math.sqrt(1 - y * y);
    const [x, z] = [r * cos(n * GOLDEN), r * sin(n * GOLDEN)];
    let [best, far] = [0, -Infinity];
    for (let i = 0; i < points.length; i += 3) {
      const reach = points[i] * x + points[i + 1] * y + points[i + 2] * z;
      if (reach > far) [best, far] = [i, reach];
    }
    kept.add(best);
  }
  return Float32Array.from([...kept].flatMap((i) => [points[i], points[i + 1], points[i + 2]]));
}

/** A placement as scale, rotation and place. */
function apart(m: Mat4): { scale: number; rotation: Quaternion; position: Vec3 } {
  const scale = mat4.getScaling([0, 0, 0], m as mat4)[0] || 1;
  return {
    scale,
    rotation: mat4.getRotation([0, 0, 0, 1], m as mat4) as Quaternion,
    position: [m[12], m[13], m[14]],
  };
}

/** A turn about any axis by up to so many degrees either way. */
function randomTurn(random: () => number, degrees: number): Quaternion {
  const axis = vec3.normalize([0, 0, 0], [random() - 0.5, random() - 0.5, random() - 0.5]);
  const half = ((random() * 2 - 1) * degrees * DEGREES) / 2;
  return [axis[0] * sin(half), axis[1] * sin(half), axis[2] * sin(half), cos(half)];
}

/** A pose's rotation as a matrix. */
export const rotationOf = ({ rotation }: BodyPose): Mat4 => matrixOf(rotation);
