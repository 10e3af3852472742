import { closedVolume, transformPoint, type Mat4, type Mesh, type Vec3 } from '../../geometry/index.ts';
import { cos, GOLDEN_TURN, hypot, sin } from '../../maths/index.ts';
import type Rapier from '@dimforge/rapier3d-simd-compat';
import type { Body, BodyEngine, BodyPart } from './body.ts';
import { apart, turned, type Roll } from './starts.ts';

/** Vertices of a hull at most, and of those of all that fall: of many, each is told more coarsely. */
const HULL_POINTS = 1500;
const ALL_POINTS = 1500;
/** Directions in which a hull keeps at least what reaches farthest. */
const LEAST_POINTS = 40;
/** A part that fills less of its hull is taken apart into convex pieces, when no more than so many parts are there. */
const FILLS = 0.8;
const MOST_TAKEN_APART = 40;
/** What stands still is taken apart when so many parts fall on it and it has more triangles. */
const CROWD = 8;
const LARGE = 1500;
const FINE_PIECES = { concavity: 0.005, maxConvexHulls: 40, resolution: 64 };
/** How finely it is taken apart: concavity that may be left, pieces at most, cells along the longest side. */
const PIECES = { concavity: 0.01, maxConvexHulls: 24, resolution: 48 };

/** Vertices of a ball lie no further from its surface, as a share of its radius. */
const ROUND = 0.015;
/** How far in a part's points are looked for when it is asked to lie within another, as a share of the way from that one's middle. */
const WITHIN = 0.998;
/** What fills so much of its box is taken for one among many. */
const BOXED = 0.94;

/** How soon a ball stops to spin, 1/s: on a smooth floor it would roll for ever. */
export const ROLLING = 8;

/** How closely a body's shape is told: balls and boxes cost a fraction of a hull. */
export type ShapeKind = 'ball' | 'box' | 'hull' | /** Several hulls. */ 'hollow';

/** Vertices of a hull when so many parts fall. */
const hullPoints = (parts: number): number =>
  Math.max(LEAST_POINTS, Math.min(HULL_POINTS, Math.floor(ALL_POINTS / Math.max(1, parts))));

/** A part's points where it lies in its thing, and what is known of them. */
interface Form {
  mesh: Mesh;
  place: Mat4 | undefined;
  scale: number;
  vertices: Float32Array;
  middle: Vec3;
  /** Half its extents. */
  half: Vec3;
  /** Its vertices lie on a ball. */
  round: boolean;
  /** Of a closed mesh, m3. */
  volume: number | null;
  /** Those that its hull is made of. */
  outer: Float32Array;
}

/** Gives bodies their shapes. What many of them have in common is worked out once. */
export class Shapes {
  private readonly forms: Form[] = [];

  /** @param parts that fall, in all. */
  constructor(
    private readonly engine: BodyEngine,
    private readonly world: Rapier.World,
    private readonly parts: number,
  ) {}

  /**
   * Gives a body the shape of a part: a ball where it is one, among many a box where it nearly is one, else its convex hull,
   * or convex pieces where that would fill hollows that others could fall into (volumetric hierarchical convex decomposition,
   * Mamou 2016). What has no volume gives none.
   */
  add(body: Rapier.RigidBody, part: BodyPart, scale: number): { collider: Rapier.Collider; kind: ShapeKind } | null {
    const { ColliderDesc } = this.engine;
    const { density } = part;
    const { vertices, middle, half, round, volume, outer } = this.formOf(part, scale);
    if (round) {
      const ball = ColliderDesc.ball(Math.max(...half)).setTranslation(...middle);
      return { collider: this.world.createCollider(ball.setDensity(density), body), kind: 'ball' };
    }
    const box = 8 * half[0] * half[1] * half[2];
    if (this.parts > MOST_TAKEN_APART && volume !== null && Math.abs(volume) > BOXED * box) {
      const described = ColliderDesc.cuboid(...half).setTranslation(...middle);
      return { collider: this.world.createCollider(described.setMass(density * Math.abs(volume)), body), kind: 'box' };
    }
    const described = ColliderDesc.convexHull(outer);
    if (!described) return null;
    const hull = this.world.createCollider(described.setDensity(density), body);
    const whole = { collider: hull, kind: 'hull' as const };
    // An open mesh has no volume of its own to compare.
    if (this.parts > MOST_TAKEN_APART || volume === null || Math.abs(volume) > FILLS * hull.volume()) return whole;
    const pieces = ColliderDesc.convexDecomposition(vertices, part.mesh.indices, PIECES);
    if (!pieces) return whole;
    this.world.removeCollider(hull, false);
    return { collider: this.world.createCollider(pieces.setDensity(density), body), kind: 'hollow' };
  }

  /**
   * Gives what stands still the shape of a part: the mesh itself, of a large closed one convex pieces, against which others are told many
   * times sooner.
   */
  stand(body: Rapier.RigidBody, { mesh, place }: BodyPart, scale: number): Rapier.Collider {
    const { ColliderDesc } = this.engine;
    const vertices = scaled(mesh, place, scale);
    const large = this.parts >= CROWD && mesh.indices.length > 3 * LARGE;
    if (!large || closedVolume({ positions: vertices, indices: mesh.indices }) === null)
      return this.world.createCollider(ColliderDesc.trimesh(vertices, mesh.indices), body);
    const pieces = ColliderDesc.convexDecomposition(vertices, mesh.indices, FINE_PIECES);
    return this.world.createCollider(pieces ?? ColliderDesc.trimesh(vertices, mesh.indices), body);
  }

  /** Whether a part lies within the shape of another of the same body, or on it. */
  within(part: BodyPart, other: BodyPart, scale: number, collider: Rapier.Collider): boolean {
    const { outer } = this.formOf(part, scale);
    const { middle } = this.formOf(other, scale);
    const parent = collider.parent()!;
    const [at, turn] = [parent.translation(), parent.rotation()];
    for (let i = 0; i < outer.length; i += 3) {
      const own = middle.map((m, a) => m + (outer[i + a] - m) * WITHIN) as Vec3;
      const [x, y, z] = turned([turn.x, turn.y, turn.z, turn.w], own);
      if (!collider.containsPoint({ x: x + at.x, y: y + at.y, z: z + at.z })) return false;
    }
    return true;
  }

  private formOf({ mesh, place, slack = 0 }: BodyPart, scale: number): Form {
    const known = this.forms.find((f) => f.mesh === mesh && f.place === place && f.scale === scale);
    if (known) return known;
    const vertices = scaled(mesh, place, scale);
    const volume = closedVolume({ positions: vertices, indices: mesh.indices });
    const { middle, half } = extentOf(vertices);
    if (slack > 0) vertices.forEach((v, i) => (vertices[i] = v + (middle[i % 3] - v) * slack));
    const form: Form = {
      ...{ mesh, place, scale, vertices, middle, half, volume },
      round: isBall(vertices, middle, half),
      outer: fewer(vertices, hullPoints(this.parts)),
    };
    this.forms.push(form);
    return form;
  }
}

function extentOf(points: Float32Array): { middle: Vec3; half: Vec3 } {
  const middle: Vec3 = [0, 0, 0];
  const half: Vec3 = [0, 0, 0];
  for (let a = 0; a < 3; a++) {
    let [least, most] = [Infinity, -Infinity];
    for (let i = a; i < points.length; i += 3) {
      least = Math.min(least, points[i]);
      most = Math.max(most, points[i]);
    }
    middle[a] = (most + least) / 2;
    half[a] = (most - least) / 2;
  }
  return { middle, half };
}

/** Whether points lie on a ball all round: as a hull it would roll from facet to facet. */
function isBall(points: Float32Array, [mx, my, mz]: Vec3, half: Vec3): boolean {
  const radius = Math.max(...half);
  if (points.length / 3 < LEAST_POINTS || half.some((h) => h < radius * (1 - ROUND))) return false;
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = [points[i] - mx, points[i + 1] - my, points[i + 2] - mz];
    const off = (x * x + y * y + z * z) / (radius * radius);
    if (off < (1 - ROUND) * (1 - ROUND) || off > (1 + ROUND) * (1 + ROUND)) return false;
  }
  return true;
}

/** How a body goes over the floor: balls roll, others slide. */
export function rollOf({ parts, matrix }: Body): Roll {
  const { scale } = apart(matrix);
  const all = parts.map(({ mesh, place }) => extentOf(scaled(mesh, place, scale)));
  const reach = Math.max(0, ...all.map(({ middle, half }) => hypot(middle[0], middle[2]) + hypot(half[0], half[2])));
  const [first] = parts;
  const round = parts.length === 1 && isBall(scaled(first.mesh, first.place, scale), all[0].middle, all[0].half);
  return { radius: round ? Math.max(...all[0].half) : 0, reach, rate: (2 / 7) * ROLLING };
}

/** Vertices in the set. */
export function placed({ positions }: Mesh, place: Mat4 | undefined, matrix: Mat4): Float32Array {
  const out = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const own: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
    out.set(transformPoint(matrix, place ? transformPoint(place, own) : own), i);
  }
  return out;
}

/** Vertices in the thing's space, at its size. */
export function scaled({ positions }: Mesh, place: Mat4 | undefined, scale: number): Float32Array {
  const points = new Float32Array(positions.length);
  for (let i = 0; i + 2 < positions.length; i += 3) {
    const own: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
    points.set(place ? transformPoint(place, own) : own, i);
  }
  for (let i = 0; i < points.length; i++) points[i] *= scale;
  return points;
}

/** Of more than `most` points those that reach farthest in so many directions. */
function fewer(points: Float32Array, most: number): Float32Array {
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
    const [x, z] = [r * cos(n * GOLDEN_TURN), r * sin(n * GOLDEN_TURN)];
    let [best, far] = [0, -Infinity];
    for (let i = 0; i < points.length; i += 3) {
      const reach = points[i] * x + points[i + 1] * y + points[i + 2] * z;
      if (reach > far) [best, far] = [i, reach];
    }
    kept.add(best);
  }
  return Float32Array.from([...kept].flatMap((i) => [points[i], points[i + 1], points[i + 2]]));
}
