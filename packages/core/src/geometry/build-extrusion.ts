import { cos, hypot, sin } from '../maths/index.ts';
import earcut from 'earcut';
import type { Mesh } from './mesh.ts';

export type Point2 = readonly [number, number];

/** A flat shape: its outline and the outlines of its holes, each closed without repeating the first point. */
export interface Outline {
  outer: readonly Point2[];
  holes: ReadonlyArray<readonly Point2[]>;
}

export interface ExtrusionOptions {
  /** From the back at z = 0 to the front, metres. */
  depth: number;
  /** Width of the rounded front and back edge, metres. */
  bevel?: number;
  /** Steps across a rounded edge. */
  steps?: number;
  /** Corners sharper than this many degrees keep a hard edge. */
  crease?: number;
}

export interface Extrusion {
  front: Mesh;
  back: Mesh;
  sides: Mesh;
}

/**
 * A flat shape in x and y given depth along z, with rounded edges. The front's uv is 0..1 over the shape's own box, v
 * down; the back's is mirrored, so that art reads right from behind. Watertight where front, sides and back meet:
 * faces are cut into triangles once (Mapbox earcut), before edges are rounded.
 */
export function buildExtrusion(shapes: readonly Outline[], options: ExtrusionOptions): Extrusion {
  const { depth, steps = 3, crease = 40 } = options;
  const bevel = Math.min(options.bevel ?? 0, depth / 2);
  const box = boxOf(shapes);
  const [front, back, sides] = [new Builder(), new Builder(), new Builder()];
  for (const shape of shapes) {
    const rings = [turned(shape.outer, 1), ...shape.holes.map((h) => turned(h, -1))];
    const flat = rings.flat().flat() as number[];
    const starts: number[] = [];
    for (let i = 0, n = 0; i < rings.length - 1; i++) starts.push((n += rings[i].length));
    const triangles = earcut(flat, starts, 2);
    const outer = bevel > 0 ? rings.map((ring) => insetOutline(ring, bevel)) : rings;
    cap(front, outer.flat(), triangles, depth, 1, box);
    cap(back, outer.flat(), triangles, 0, -1, box);
    for (const ring of rings) wall(sides, ring, { depth, bevel, steps: bevel > 0 ? steps : 0, crease });
  }
  return { front: front.mesh(), back: back.mesh(), sides: sides.mesh() };
}

/** An outline with rounded corners, centred, starting at the right of the bottom edge and running counter-clockwise. */
export function roundedRectangle(width: number, height: number, radius: number, steps = 6): Point2[] {
  const r = Math.max(0, Math.min(radius, width / 2, height / 2));
  const [cx, cy] = [width / 2 - r, height / 2 - r];
  const corners: Array<[number, number, number]> = [
    [cx, -cy, -90],
    [cx, cy, 0],
    [-cx, cy, 90],
    [-cx, -cy, 180],
  ];
  if (r === 0) return corners.map(([x, y]) => [x, y]);
  return corners.flatMap(([x, y, start]) =>
    Array.from({ length: steps + 1 }, (_, i): Point2 => {
      const a = ((start + (90 * i) / steps) * Math.PI) / 180;
      return [x + r * cos(a), y + r * sin(a)];
    }),
  );
}

/** Twice the signed area; positive when the outline runs counter-clockwise. */
export function signedArea(ring: readonly Point2[]): number {
  return ring.reduce((sum, [x, y], i) => {
    const [nx, ny] = ring[(i + 1) % ring.length];
    return sum + x * ny - nx * y;
  }, 0);
}

/** Whether a point lies in an outline, by the even-odd rule. */
export function contains(ring: readonly Point2[], [x, y]: Point2): boolean {
  let odd = false;
  ring.forEach(([ax, ay], i) => {
    const [bx, by] = ring[(i + 1) % ring.length];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) odd = !odd;
  });
  return odd;
}

class Builder {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly uvs: number[] = [];
  private readonly indices: number[] = [];

  vertex(p: readonly number[], n: readonly number[], uv: readonly number[]): number {
    this.positions.push(p[0], p[1], p[2]);
    this.normals.push(n[0], n[1], n[2]);
    this.uvs.push(uv[0], uv[1]);
    return this.positions.length / 3 - 1;
  }
  triangle(a: number, b: number, c: number): void {
    this.indices.push(a, b, c);
  }
  mesh(): Mesh {
    return {
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      uvs: Float32Array.from(this.uvs),
      indices: Uint32Array.from(this.indices),
    };
  }
}

type Box = { x: number; y: number; width: number; height: number };

function boxOf(shapes: readonly Outline[]): Box {
  const points = shapes.flatMap((s) => s.outer);
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const low = (values: number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
  const high = (values: number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity);
  return { x: low(xs), y: low(ys), width: high(xs) - low(xs) || 1, height: high(ys) - low(ys) || 1 };
}

function turned(ring: readonly Point2[], sign: 1 | -1): Point2[] {
  return signedArea(ring) * sign < 0 ? [...ring].reverse() : [...ring];
}

/** The outward normal of the edge from point i of a ring. */
function edgeNormal(ring: readonly Point2[], i: number): [number, number] {
  const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
  const length = hypot(b[0] - a[0], b[1] - a[1]) || 1;
  return [(b[1] - a[1]) / length, -(b[0] - a[0]) / length];
}

/** A ring moved inward; at sharp corners the move is limited to twice the distance. */
export function insetOutline(ring: readonly Point2[], by: number): Point2[] {
  return ring.map((p, i): Point2 => {
    const a = edgeNormal(ring, (i + ring.length - 1) % ring.length);
    const b = edgeNormal(ring, i);
    const [mx, my] = [a[0] + b[0], a[1] + b[1]];
    const scale = Math.min(2, 2 / Math.max(1e-6, mx * mx + my * my) || 2);
    return [p[0] - mx * scale * by, p[1] - my * scale * by];
  });
}

function cap(to: Builder, points: Point2[], triangles: number[], z: number, facing: 1 | -1, box: Box): void {
  const at = points.map(([x, y]) => {
    const u = (x - box.x) / box.width;
    return to.vertex([x, y, z], [0, 0, facing], [facing > 0 ? u : 1 - u, 1 - (y - box.y) / box.height]);
  });
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at[triangles[t]], at[triangles[t + 1]], at[triangles[t + 2]]];
    // earcut's triangles follow the outline's own direction or its reverse: the area of each says which.
    const area = signedArea([points[triangles[t]], points[triangles[t + 1]], points[triangles[t + 2]]]);
    if (area * facing > 0) to.triangle(a, b, c);
    else to.triangle(a, c, b);
  }
}

interface WallOptions {
  depth: number;
  bevel: number;
  steps: number;
  crease: number;
}

function wall(to: Builder, ring: Point2[], { depth, bevel, steps, crease }: WallOptions): void {
  // Rows from back to front: how far inward, how far along z, and how the normal leans.
  const rows: Array<{ inset: number; z: number; lean: number }> = [];
  for (let k = 0; k <= steps; k++) {
    const a = ((steps ? k / steps : 1) * Math.PI) / 2;
    rows.push({ inset: bevel * (1 - sin(a)), z: bevel * (1 - cos(a)), lean: -cos(a) });
  }
  for (let k = 0; k <= steps; k++) {
    const a = ((steps ? k / steps : 0) * Math.PI) / 2;
    rows.push({ inset: bevel * (1 - cos(a)), z: depth - bevel * (1 - sin(a)), lean: sin(a) });
  }
  const rings = rows.map((row) => insetOutline(ring, row.inset));
  const total = ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % ring.length]), 0);
  const limit = cos((crease * Math.PI) / 180);
  const smooth = (i: number, j: number): [number, number] => {
    const [own, other] = [edgeNormal(ring, i), edgeNormal(ring, j)];
    if (own[0] * other[0] + own[1] * other[1] < limit) return own;
    const length = hypot(own[0] + other[0], own[1] + other[1]);
    return [(own[0] + other[0]) / length, (own[1] + other[1]) / length];
  };
  let run = 0;
  ring.forEach((p, i) => {
    const next = (i + 1) % ring.length;
    const ends = [smooth(i, (i + ring.length - 1) % ring.length), smooth(i, next)];
    const us = [run / total, (run += distance(p, ring[next])) / total];
    const columns = [i, next].map((corner, e) =>
      rows.map((row, k) => {
        const side = Math.sqrt(1 - row.lean * row.lean);
        const normal = [ends[e][0] * side, ends[e][1] * side, row.lean];
        return to.vertex([...rings[k][corner], row.z], normal, [us[e], 1 - row.z / depth]);
      }),
    );
    for (let k = 0; k + 1 < rows.length; k++) {
      if (rows[k].z === rows[k + 1].z && rows[k].inset === rows[k + 1].inset) continue;
      to.triangle(columns[0][k], columns[1][k], columns[1][k + 1]);
      to.triangle(columns[0][k], columns[1][k + 1], columns[0][k + 1]);
    }
  });
}

function distance(a: Point2, b: Point2): number {
  return hypot(a[0] - b[0], a[1] - b[1]);
}
