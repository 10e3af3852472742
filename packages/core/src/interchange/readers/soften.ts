import type { Mesh } from '../../geometry/index.ts';
import { cos, hypot } from '../../maths/index.ts';

/**
 * A mesh of loose triangles: normals are shared where triangles that meet in a point lie within `crease` degrees of each
 * other, and stay sharp elsewhere.
 *
 * @param corners nine numbers a triangle
 * @param colours linear RGB of each triangle
 */
export function softened(corners: Float32Array, crease: number, colours?: Float32Array): Mesh {
  const count = corners.length / 9;
  const faces = facetNormals(corners);
  const point = pointsOf(corners);
  const limit = cos((crease * Math.PI) / 180);
  // Triangles round each point, as lists in one array.
  const starts = new Uint32Array(point.count + 1);
  for (const p of point.of) starts[p + 1]++;
  for (let p = 0; p < point.count; p++) starts[p + 1] += starts[p];
  const round = new Uint32Array(count * 3);
  const next = starts.slice();
  point.of.forEach((p, corner) => (round[next[p]++] = corner));

  const made = new Map<number, number[]>();
  const indices = new Uint32Array(count * 3);
  const [positions, normals, tints]: number[][] = [[], [], []];
  const normal = [0, 0, 0];
  for (let p = 0; p < point.count; p++) {
    made.clear();
    const fan = round.subarray(starts[p], starts[p + 1]);
    for (const corner of fan) {
      const t = Math.floor(corner / 3);
      normal.fill(0);
      // A point where thousands meet is taken as sharp: what lies round it cannot be one surface.
      for (const other of fan.length > 500 ? [corner] : fan) {
        const o = Math.floor(other / 3);
        if (unitDot(faces, t, o) >= limit) for (let c = 0; c < 3; c++) normal[c] += faces[o * 3 + c];
      }
      const length = hypot(normal[0], normal[1], normal[2]) || 1;
      const key = normal.map((v) => Math.round((v / length) * 1e4)).reduce((sum, v) => sum * 20011 + v, 0);
      const alike = made.get(key) ?? [];
      const known = alike.find((v) => !colours || sameColour(tints, v, colours, t));
      indices[corner] = known ?? positions.length / 3;
      if (known !== undefined) continue;
      made.set(key, [...alike, positions.length / 3]);
      for (let c = 0; c < 3; c++) {
        positions.push(corners[corner * 3 + c]);
        normals.push(normal[c] / length);
        if (colours) tints.push(colours[t * 3 + c]);
      }
      if (colours) tints.push(1);
    }
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: new Float32Array((positions.length / 3) * 2),
    indices,
    ...(colours && { colors: Float32Array.from(tints) }),
  };
}

function sameColour(tints: readonly number[], vertex: number, colours: Float32Array, triangle: number): boolean {
  return [0, 1, 2].every((c) => tints[vertex * 4 + c] === colours[triangle * 3 + c]);
}

/** Twice-area-long normals, so that large facets count for more. */
function facetNormals(corners: Float32Array): Float64Array {
  const out = new Float64Array(corners.length / 3);
  for (let i = 0; i < corners.length; i += 9) {
    const at = (k: number): number => corners[i + k];
    const [ux, uy, uz] = [at(3) - at(0), at(4) - at(1), at(5) - at(2)];
    const [vx, vy, vz] = [at(6) - at(0), at(7) - at(1), at(8) - at(2)];
    out.set([uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx], i / 3);
  }
  return out;
}

function unitDot(faces: Float64Array, a: number, b: number): number {
  const [i, j] = [a * 3, b * 3];
  const dot = faces[i] * faces[j] + faces[i + 1] * faces[j + 1] + faces[i + 2] * faces[j + 2];
  const lengths = hypot(faces[i], faces[i + 1], faces[i + 2]) * hypot(faces[j], faces[j + 1], faces[j + 2]);
  return lengths > 0 ? dot / lengths : 1;
}

/** Corners that lie in the same place are one point. */
function pointsOf(corners: Float32Array): { of: Uint32Array; count: number } {
  const total = corners.length / 3;
  // Both zeros are one place, but not the same bits.
  for (let i = 0; i < corners.length; i++) if (corners[i] === 0) corners[i] = 0;
  const of = new Uint32Array(total);
  const bits = new Int32Array(corners.buffer, corners.byteOffset, corners.length);
  let size = 64;
  while (size < total * 2) size *= 2;
  const slots = new Int32Array(size).fill(-1);
  const firsts: number[] = [];
  for (let i = 0; i < total; i++) {
    let hash = Math.imul(bits[i * 3], 0x9e3779b1) ^ Math.imul(bits[i * 3 + 1], 0x85ebca6b);
    hash = Math.imul(hash ^ (hash >>> 15) ^ Math.imul(bits[i * 3 + 2], 0xc2b2ae35), 0x2c1b3c6d);
    let slot = (hash ^ (hash >>> 13)) & (size - 1);
    for (; slots[slot] >= 0; slot = (slot + 1) & (size - 1)) {
      const at = firsts[slots[slot]] * 3;
      if (
        corners[at] === corners[i * 3] &&
        corners[at + 1] === corners[i * 3 + 1] &&
        corners[at + 2] === corners[i * 3 + 2]
      )
        break;
    }
    if (slots[slot] < 0) slots[slot] = firsts.push(i) - 1;
    of[i] = slots[slot];
  }
  return { of, count: firsts.length };
}
