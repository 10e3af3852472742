import type Rapier from '@dimforge/rapier3d-simd-compat';
import { quat } from 'gl-matrix';
import { DEGREES, multiply, slerp, type Mat4, type Quaternion, type Vec3 } from '../../geometry/index.ts';
import { atan2, seeded } from '../../maths/index.ts';
import { matrixOf } from '../../motion/index.ts';
import { framesToSeconds } from '../../time/index.ts';
import type { Body, BodyEngine, BodyHinge, BodyMotion, BodyPart, BodyPose, BodySettings } from './body.ts';
import { placed, rollOf, ROLLING, Shapes } from './shapes.ts';
import { about, apart, GRAVITY, startsOf, turned, type Start } from './starts.ts';

/** Steps a frame, and passes of the solver in each. */
const FEW = { steps: 8, passes: 8 };
/** From so many bodies on there are as many steps as their speed asks for, and in all at least so many passes a frame. */
const MANY = 16;
const HEAP = { steps: 4, passes: 12 };
/** A heap of boxes and balls, whose contacts are told sooner. */
const PLAIN_HEAP = { steps: 2, passes: 4 };
/** Passes in a step at least. */
const LEAST_PASSES = 2;
/** Collision groups of what meets nothing. */
const NOTHING = 0;
/** Metres that a body of a heap goes in a step. */
const REACH = 0.0075;
/** Frames after which bodies that still move are left as they are. */
const LONGEST = 240;
/** Metres and radians a second below which a body rests, and frames for which it has to. */
const STILL = { speed: 0.004, spin: 0.06, frames: 5 };
/** Products are a decimetre large: what counts as touching is measured by that. */
const LENGTH_UNIT = 0.05;
/** Of more than so many bodies coarser: small ones that lie on each other would never rest. */
const CROWD = 8;
const CROWD_UNIT = 0.3;

const scaling = (by: number): Mat4 => [by, 0, 0, 0, 0, by, 0, 0, 0, 0, by, 0, 0, 0, 0, 1];
const xyz = ([x, y, z]: Vec3): Rapier.Vector => ({ x, y, z });
const vec = ({ x, y, z }: Rapier.Vector): Vec3 => [x, y, z];
const rot = ([x, y, z, w]: Quaternion): Rapier.Rotation => ({ x, y, z, w });
const quaternion = ({ x, y, z, w }: Rapier.Rotation): Quaternion => [x, y, z, w];

/**
 * Lets things fall into a set, or hang in it, until they rest. What stands there keeps its shape; what moves there by keys pushes.
 * Deterministic: the same input gives the same poses in every host.
 * @param engine started. @param still what does not fall, besides the floor at height 0.
 */
export function runBodies(
  engine: BodyEngine,
  falling: readonly Body[],
  still: readonly Body[],
  settings: BodySettings,
  hinges: readonly BodyHinge[] = [],
): BodyMotion {
  const run = new BodyRun(engine, falling, still, settings, hinges);
  try {
    return run.untilTheyRest();
  } finally {
    run.free();
  }
}

interface Falling {
  id: string;
  body: Rapier.RigidBody;
  /** Where it is to be in the end. */
  home: BodyPose;
  poses: BodyPose[];
}

interface Swinging {
  of: Rapier.RigidBody;
  flap: Rapier.RigidBody;
  axis: Vec3;
  angles: number[];
}

class BodyRun {
  private readonly world: Rapier.World;
  private readonly shapes: Shapes;
  private substeps = FEW.steps;
  private plain = true;
  private readonly seconds: number;
  private readonly falling: Falling[];
  private readonly moving: Array<{ body: Rapier.RigidBody; at: (frame: number) => Mat4 }> = [];
  private readonly swinging: Swinging[] = [];

  constructor(
    private readonly engine: BodyEngine,
    falling: readonly Body[],
    still: readonly Body[],
    private readonly settings: BodySettings,
    hinges: readonly BodyHinge[],
  ) {
    this.world = new engine.World({ x: 0, y: -GRAVITY, z: 0 });
    this.seconds = framesToSeconds(1, settings.rate);
    this.world.integrationParameters.dt = this.seconds / this.substeps;
    this.world.integrationParameters.lengthUnit = falling.length > CROWD ? CROWD_UNIT : LENGTH_UNIT;
    this.world.integrationParameters.numSolverIterations = FEW.passes;
    const ground = engine.ColliderDesc.cuboid(50, 1, 50).setTranslation(0, -1, 0);
    this.surface(this.world.createCollider(ground));
    const parts = falling.reduce((sum, body) => sum + body.parts.length, 0);
    this.shapes = new Shapes(engine, this.world, parts);
    for (const body of still) this.stand(body, hinges);
    const starts = startsOf(
      falling,
      settings,
      seeded(settings.seed),
      settings.way === 'roll' ? falling.map(rollOf) : [],
    );
    this.falling = falling.map((body, n) => this.letGo(body, starts[n], hinges));
  }

  private surface(collider: Rapier.Collider, { grip = 1, spring = 1 }: Partial<BodyPart> = {}): void {
    collider.setFriction(this.settings.friction * grip);
    collider.setRestitution(Math.min(1, this.settings.bounce * spring));
  }

  /** Gives a body its parts' shapes. Those that lie within another's hull weigh something and touch nothing. */
  private shapeAll(body: Rapier.RigidBody, parts: readonly BodyPart[], scale: number): void {
    const shapes = parts.flatMap((part) => {
      const shape = this.shapes.add(body, part, scale);
      return shape ? [{ part, ...shape }] : [];
    });
    const outer: typeof shapes = [];
    for (const shape of shapes.sort((a, b) => b.collider.volume() - a.collider.volume())) {
      this.surface(shape.collider, shape.part);
      if (shape.kind === 'ball') body.setAngularDamping(ROLLING);
      if (outer.some((o) => o.kind !== 'hollow' && this.shapes.within(shape.part, o.part, scale, o.collider))) {
        shape.collider.setCollisionGroups(NOTHING);
        continue;
      }
      outer.push(shape);
      if (shape.kind === 'hull' || shape.kind === 'hollow') this.plain = false;
    }
  }

  /** What others fall on: a fixed mesh, or one that goes where its keys take it. */
  private stand(body: Body, hinges: readonly BodyHinge[]): void {
    const { engine, world } = this;
    const { id, parts, matrix, matrixAt } = body;
    const own = hinges.filter((hinge) => hinge.body === id);
    const flaps = new Set(own.flatMap((hinge) => hinge.parts));
    const { scale, position, rotation } = apart(matrixAt?.(0) ?? matrix);
    const kind = matrixAt ? engine.RigidBodyDesc.kinematicPositionBased() : engine.RigidBodyDesc.fixed();
    const made = world.createRigidBody(kind.setTranslation(...position).setRotation(rot(rotation)));
    for (const part of parts) {
      if (part.mesh.indices.length === 0 || flaps.has(part.part ?? -1)) continue;
      this.surface(this.shapes.stand(made, part, scale), part);
    }
    if (matrixAt) this.moving.push({ body: made, at: matrixAt });
    const start: Start = { position, rotation, velocity: [0, 0, 0], spin: [0, 0, 0] };
    for (const hinge of own) this.swing(hinge, made, body, start, scale);
  }

  private letGo(body: Body, start: Start, hinges: readonly BodyHinge[]): Falling {
    const { engine, world, settings } = this;
    const { id, parts, matrix } = body;
    const { scale, position, rotation } = apart(matrix);
    const own = hinges.filter((hinge) => hinge.body === id);
    const flaps = new Set(own.flatMap((hinge) => hinge.parts));
    const made = world.createRigidBody(
      engine.RigidBodyDesc.dynamic()
        .setTranslation(...start.position)
        .setRotation(rot(start.rotation))
        .setLinvel(...start.velocity)
        .setAngvel(xyz(start.spin))
        .setCcdEnabled(true),
    );
    this.shapeAll(
      made,
      parts.filter(({ part }) => !flaps.has(part ?? -1)),
      scale,
    );
    for (const hinge of own) this.swing(hinge, made, body, start, scale);
    if (settings.way === 'hang') this.hang(made, body);
    return { id, body: made, home: { position, rotation }, poses: [] };
  }

  /**
   * Hangs a body by its top from a spring, of the length with which it comes to rest at its place. A soft spring is drawn out far: its hook is
   * put as much higher as that takes.
   */
  private hang(made: Rapier.RigidBody, { parts, matrix }: Body): void {
    const { engine, world, settings } = this;
    const { scale, position, rotation } = apart(matrix);
    made.recomputeMassPropertiesFromColliders();
    const mass = made.mass();
    const rate = 2 * Math.PI * settings.frequency;
    const centre = turned(rotation, vec(made.localCom()));
    const top = parts.reduce((most, { mesh, place }) => {
      const points = placed(mesh, place, multiply(matrixOf(rotation), scaling(scale)));
      return points.reduce((high, v, i) => (i % 3 === 1 && v > high ? v : high), most);
    }, centre[1]);
    // Straight above the centre of mass, so that it hangs as it stands in the set.
    const hook: Vec3 = [centre[0], top, centre[2]];
    const sag = GRAVITY / (rate * rate);
    const length = Math.max(settings.height, sag);
    const [x, y, z] = hook.map((v, a) => v + position[a]);
    const above = world.createRigidBody(engine.RigidBodyDesc.fixed().setTranslation(x, y + length, z));
    const own = turned([-rotation[0], -rotation[1], -rotation[2], rotation[3]], hook);
    const damping = 2 * settings.damping * mass * rate;
    const joint = engine.JointData.spring(length - sag, mass * rate * rate, damping, xyz([0, 0, 0]), xyz(own));
    world.createImpulseJoint(joint, above, made, true);
    made.setAngularDamping(settings.damping * rate);
    made.setLinearDamping(settings.damping * rate * 0.5);
  }

  /** Parts that turn about a line of a body, between two angles. */
  private swing(hinge: BodyHinge, of: Rapier.RigidBody, { parts }: Body, start: Start, scale: number): void {
    const { engine, world } = this;
    const pivot = hinge.point.map((v) => v * scale) as Vec3;
    const opened = about(hinge.axis, hinge.start * DEGREES);
    const rotation = quat.multiply([0, 0, 0, 1], start.rotation, opened) as Quaternion;
    const from = turned(start.rotation, pivot);
    const to = turned(rotation, pivot);
    const position = start.position.map((v, a) => v + from[a] - to[a]) as Vec3;
    const flap = world.createRigidBody(
      engine.RigidBodyDesc.dynamic()
        .setTranslation(...position)
        .setRotation(rot(rotation))
        .setLinvel(...start.velocity)
        .setAngvel(xyz(start.spin)),
    );
    const own = parts.filter(({ part }) => hinge.parts.includes(part ?? -1));
    this.shapeAll(flap, own, scale);
    const data = engine.JointData.revolute(xyz(pivot), xyz(pivot), xyz(hinge.axis));
    const joint = world.createImpulseJoint(data, of, flap, true) as Rapier.RevoluteImpulseJoint;
    joint.setLimits(hinge.from * DEGREES, hinge.to * DEGREES);
    joint.setContactsEnabled(false);
    this.swinging.push({ of, flap, axis: hinge.axis, angles: [] });
  }

  private keep(): void {
    for (const { body, poses } of this.falling)
      poses.push({ position: vec(body.translation()), rotation: quaternion(body.rotation()) });
    for (const { of, flap, axis, angles } of this.swinging) {
      const [x, y, z] = quaternion(of.rotation());
      const back = [-x, -y, -z, of.rotation().w] as Quaternion;
      const q = quat.multiply([0, 0, 0, 1], back, quaternion(flap.rotation()));
      const angle = (2 * atan2(q[0] * axis[0] + q[1] * axis[1] + q[2] * axis[2], q[3])) / DEGREES;
      const last = angles.at(-1) ?? 0;
      angles.push(angle - 360 * Math.round((angle - last) / 360));
    }
  }

  /** Chooses the steps of the next frame of a heap: while it rests nearly, few are enough. */
  private pace(): void {
    if (this.falling.length <= MANY) return;
    const { steps, passes } = this.plain ? PLAIN_HEAP : HEAP;
    let fastest = 0;
    for (const { body } of this.falling) {
      const { x, y, z } = body.linvel();
      fastest = Math.max(fastest, x * x + y * y + z * z);
    }
    this.substeps = Math.min(steps, Math.max(1, Math.ceil((Math.sqrt(fastest) * this.seconds) / REACH)));
    this.world.integrationParameters.dt = this.seconds / this.substeps;
    this.world.integrationParameters.numSolverIterations = Math.max(LEAST_PASSES, Math.ceil(passes / this.substeps));
  }

  /** A frame in small steps; `act` is called before each. */
  private step(frame: number, act?: () => void): void {
    this.pace();
    for (let i = 0; i < this.substeps; i++) {
      for (const { body, at } of this.moving) {
        const [a, b] = [apart(at(frame)), apart(at(frame + 1))];
        const t = (i + 1) / this.substeps;
        const position = a.position.map((v, axis) => v + (b.position[axis] - v) * t) as Vec3;
        body.setNextKinematicTranslation(xyz(position));
        body.setNextKinematicRotation(rot(slerp(a.rotation, b.rotation, t)));
      }
      act?.();
      this.world.step();
    }
    this.keep();
  }

  untilTheyRest(): BodyMotion {
    this.keep();
    let quiet = 0;
    let frame = 0;
    const least = this.moving.length > 0 ? (this.settings.least ?? 0) : 0;
    const most = Math.min(this.settings.most ?? Infinity, Math.max(LONGEST, least));
    while ((quiet < STILL.frames || frame < least) && frame < most) {
      this.step(frame);
      frame++;
      quiet = this.resting() ? quiet + 1 : 0;
    }
    const rests = quiet >= STILL.frames ? frame - quiet + 1 : frame;
    const drawn = this.settings.home > 0 && this.settings.way !== 'hang';
    return {
      frames: new Map(this.falling.map(({ id, poses }) => [id, poses])),
      hinges: this.swinging.map(({ angles }) => angles),
      rests: drawn ? this.drawHome(rests, frame) : rests,
    };
  }

  private resting(): boolean {
    const bodies = [...this.falling.map(({ body }) => body), ...this.swinging.map(({ flap }) => flap)];
    return bodies.every((body) => {
      if (body.isSleeping()) return true;
      const [v, w] = [vec(body.linvel()), vec(body.angvel())];
      return (
        v[0] * v[0] + v[1] * v[1] + v[2] * v[2] < STILL.speed * STILL.speed &&
        w[0] * w[0] + w[1] * w[1] + w[2] * w[2] < STILL.spin * STILL.spin
      );
    });
  }

  /**
   * Draws bodies from where they rest to their places, as by magnets: by springs without overshoot that hold them against their weight, and
   * for what those leave by a share that grows, so that they end just there. @returns the frame from which they rest.
   */
  private drawHome(rests: number, frame: number): number {
    const count = Math.max(1, Math.round(this.settings.home / this.seconds));
    const rate = 6 / this.settings.home;
    for (const { poses } of this.falling) poses.length = rests + 1;
    for (const { angles } of this.swinging) angles.length = rests + 1;
    for (const { body } of this.falling) body.setGravityScale(0, true);
    for (let n = 1; n <= count; n++) {
      this.step(frame + n - 1, () => {
        for (const { body, home } of this.falling) pull(body, home, rate);
      });
      const t = n / count;
      const share = t * t * t * (t * (t * 6 - 15) + 10);
      for (const { poses, home } of this.falling) {
        const { position, rotation } = poses.at(-1)!;
        poses[poses.length - 1] = {
          position: position.map((v, a) => v + (home.position[a] - v) * share) as Vec3,
          rotation: slerp(rotation, home.rotation, share),
        };
      }
    }
    return rests + count;
  }

  free(): void {
    this.world.free();
  }
}

/** Pulls a body to a pose by a spring that is just damped enough (stiffness of `rate` squared, a unit of mass). */
function pull(body: Rapier.RigidBody, { position, rotation }: BodyPose, rate: number): void {
  const [at, v, w] = [vec(body.translation()), vec(body.linvel()), vec(body.angvel())];
  const [x, y, z, s] = quaternion(body.rotation());
  const off = quat.multiply([0, 0, 0, 1], rotation, [-x, -y, -z, s]);
  const side = off[3] < 0 ? -2 : 2;
  const mass = body.mass();
  const force = position.map((to, a) => mass * (rate * rate * (to - at[a]) - 2 * rate * v[a])) as Vec3;
  body.resetForces(true);
  body.addForce(xyz(force), true);
  // Turning needs no inertia here: what it is to be in the next moment is said outright.
  const wanted = w.map((now, a) => now + (rate * side * off[a] - now) * 0.5) as Vec3;
  body.setAngvel(xyz(wanted), true);
}

/** A pose's rotation as a matrix. */
export const rotationOf = ({ rotation }: BodyPose): Mat4 => matrixOf(rotation);
