import { closedVolume, transformPoint, type Mat4, type Mesh, type Vec3 } from '../../geometry/index.ts';
import { cos, sin } from '../../maths/index.ts';
import type Rapier from '@dimforge/rapier3d-simd-compat';
import type { BodyEngine, BodyPart } from './body.ts';

/** Vertices of a hull at most, and of those of all that fall: of many, each is told more coarsely. */
const HULL_POINTS = 1500;
const ALL_POINTS = 12_000;
/** Directions in which a hull keeps at least what reaches farthest. */
const LEAST_POINTS = 40;
/** Radians: the turn by which points on a sphere lie far apart. */
const GOLDEN = Math.PI * (3 - Math.sqrt(5));
/** A part that fills less of its hull is taken apart into convex pieces, when no more than so many parts are there. */
const FILLS = 0.8;
const MOST_TAKEN_APART = 40;
/** How finely it is taken apart: concavity that may be left, pieces at most, cells along the longest side. */
const PIECES = { concavity: 0.01, maxConvexHulls: 24, resolution: 48 };

/** Vertices of a hull when so many parts fall. */
export const hullPoints = (parts: number): number =>
  Math.max(LEAST_POINTS, Math.min(HULL_POINTS, Math.floor(ALL_POINTS / Math.max(1, parts))));

/**
 * Gives a body the shape of a part: its convex hull, or convex pieces where that would fill hollows that others could fall into
 * (volumetric hierarchical convex decomposition, Mamou 2016). What has no volume gives none.
 */
export function addPart(
  engine: BodyEngine,
  world: Rapier.World,
  body: Rapier.RigidBody,
  { mesh, place, density }: BodyPart,
  scale: number,
  points: number,
  parts: number,
): Rapier.Collider | null {
  const vertices = scaled(mesh, place, scale);
  const described = engine.ColliderDesc.convexHull(fewer(vertices, points));
  if (!described) return null;
  const hull = world.createCollider(described.setDensity(density), body);
  if (parts > MOST_TAKEN_APART) return hull;
  const own = closedVolume({ positions: vertices, indices: mesh.indices });
  // An open mesh has no volume of its own to compare.
  if (own === null || Math.abs(own) > FILLS * hull.volume()) return hull;
  const pieces = engine.ColliderDesc.convexDecomposition(vertices, mesh.indices, PIECES);
  if (!pieces) return hull;
  world.removeCollider(hull, false);
  return world.createCollider(pieces.setDensity(density), body);
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
