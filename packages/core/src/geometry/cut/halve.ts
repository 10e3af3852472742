import earcut from 'earcut';
import { vec3 } from 'gl-matrix';
import { contains, signedArea, type Point2 } from '../build-extrusion.ts';
import type { Vec3 } from '../transform.ts';
import { CUT_FACE, placeKey, type Corner, type Cover, type Solid, type Step } from './solid.ts';

/** All points of which `normal` times the point is at most `offset`; the normal has length 1. */
export interface HalfSpace {
  normal: Vec3;
  offset: number;
}

/**
 * What of a solid lies in a half-space. Where it is cut it has an open cover, which later cuts go on with: it is made of triangles
 * only in the end, so that many cuts do not leave slivers.
 */
export function halve(solid: Solid, { normal, offset }: HalfSpace): Solid {
  const { corners, faces, of } = solid;
  const beyond = new Float64Array(corners.length);
  for (let i = 0; i < corners.length; i++) beyond[i] = dot(normal, corners[i]) - offset;
  const out: Solid = { corners: [], faces: [], of: [], covers: [] };
  /** One more than the number that a corner has now. */
  const kept = new Uint32Array(corners.length);
  const keep = (i: number): number => {
    if (kept[i] === 0) kept[i] = out.corners.push(corners[i]);
    return kept[i] - 1;
  };
  const made = new Map<string, number>();
  const cut = (i: number, j: number): number => {
    const key = i < j ? `${i} ${j}` : `${j} ${i}`;
    let at = made.get(key);
    if (at === undefined) {
      made.set(key, (at = out.corners.length));
      out.corners.push(between(corners[i], corners[j], beyond[i], beyond[j]));
    }
    return at;
  };
  const steps: Step[] = [];
  for (let f = 0; f < of.length; f++) {
    const [a, b, c] = [faces[3 * f], faces[3 * f + 1], faces[3 * f + 2]];
    const within = (beyond[a] <= 0 ? 1 : 0) + (beyond[b] <= 0 ? 1 : 0) + (beyond[c] <= 0 ? 1 : 0);
    if (within === 0) continue;
    if (within === 3) {
      out.faces.push(keep(a), keep(b), keep(c));
      out.of.push(of[f]);
      continue;
    }
    const ring: number[] = [];
    let [left, back] = [-1, -1];
    for (const [i, j] of [
      [a, b],
      [b, c],
      [c, a],
    ]) {
      if (beyond[i] <= 0) ring.push(keep(i));
      if (beyond[i] <= 0 === beyond[j] <= 0) continue;
      const at = cut(i, j);
      if (beyond[i] <= 0) left = at;
      else back = at;
      ring.push(at);
    }
    for (let k = 1; k + 1 < ring.length; k++) {
      out.faces.push(ring[0], ring[k], ring[k + 1]);
      out.of.push(of[f]);
    }
    if (left >= 0 && back >= 0) steps.push({ from: out.corners[back], to: out.corners[left] });
  }
  for (const cover of solid.covers) {
    const rest = halveCover(cover, normal, offset, steps);
    if (rest.length > 0) out.covers.push({ normal: cover.normal, steps: rest });
  }
  if (steps.length > 0) out.covers.push({ normal, steps });
  return out;
}

/** What of a cover's outline lies in a half-space, closed along the cut; the way back along it is added to the outline of the cut. */
function halveCover(cover: Cover, normal: Vec3, offset: number, cut: Step[]): Step[] {
  const out: Step[] = [];
  const leaves: Corner[] = [];
  const enters: Corner[] = [];
  for (const { from, to } of cover.steps) {
    const [a, b] = [dot(normal, from) - offset, dot(normal, to) - offset];
    if (a <= 0 && b <= 0) out.push({ from, to });
    if (a <= 0 === b <= 0) continue;
    const at = between(from, to, a, b);
    if (a <= 0) {
      out.push({ from, to: at });
      leaves.push(at);
    } else {
      out.push({ from: at, to });
      enters.push(at);
    }
  }
  // Along the cut, with what is kept on the left, each place where the outline leaves is joined to the next one where it comes back.
  const along: Vec3 = cross(cover.normal, normal);
  const order = (a: Corner, b: Corner): number => dot(along, a) - dot(along, b);
  leaves.sort(order);
  enters.sort(order);
  for (let i = 0; i < Math.min(leaves.length, enters.length); i++) {
    out.push({ from: leaves[i], to: enters[i] });
    cut.push({ from: enters[i], to: leaves[i] });
  }
  return out;
}

/** Where an edge goes through the cut; the same to the last bit for both faces at the edge, whatever way they go along it. */
function between(a: Corner, b: Corner, beyondA: number, beyondB: number): Corner {
  const swap = a[0] !== b[0] ? a[0] > b[0] : a[1] !== b[1] ? a[1] > b[1] : a[2] > b[2];
  if (swap) return between(b, a, beyondB, beyondA);
  const t = beyondA / (beyondA - beyondB);
  return a.map((v, i) => v + (b[i] - v) * t);
}

/** Steps joined end to end into rings; what does not come back to where it began is left out. */
function ringsOf(steps: readonly Step[]): Corner[][] {
  const from = new Map<string, Step[]>();
  for (const step of steps) {
    const key = placeKey(step.from);
    if (key === placeKey(step.to)) continue;
    const there = from.get(key);
    if (there) there.push(step);
    else from.set(key, [step]);
  }
  const rings: Corner[][] = [];
  for (const [start, list] of from) {
    for (let step = list.pop(); step; step = list.pop()) {
      const ring: Corner[] = [];
      let next: Step | undefined = step;
      while (next) {
        ring.push(next.from);
        const key = placeKey(next.to);
        if (key === start) break;
        next = from.get(key)?.pop();
      }
      if (next && ring.length > 2) rings.push(ring);
    }
  }
  return rings;
}

/** A solid with triangles for its covers; one over an open part of it is left out. */
export function closed({ corners, faces, of, covers }: Solid): Solid {
  const out: Solid = { corners: [...corners], faces: [...faces], of: [...of], covers: [] };
  for (const cover of covers) fill(out, cover);
  return out;
}

/** Triangles over the rings of a cover. Rings that run the other way are holes in the smallest one round them. */
function fill(solid: Solid, { steps, normal }: Cover): void {
  const [across, up] = axesOf(normal);
  const flat = (c: Corner): Point2 => [dot(across, c), dot(up, c)];
  const rings = ringsOf(steps).map((ring) => {
    const points = ring.map(flat);
    return { ring, points, area: signedArea(points) };
  });
  const outers = rings.filter(({ area }) => area > 0).map((outer) => ({ ...outer, holes: [] as typeof rings }));
  for (const hole of rings) {
    if (hole.area >= 0) continue;
    const round = outers.filter((o) => o.area > -hole.area && contains(o.points, hole.points[0]));
    if (round.length > 0) round.reduce((a, b) => (b.area < a.area ? b : a)).holes.push(hole);
  }
  for (const outer of outers) {
    const all = [outer, ...outer.holes];
    const points = all.flatMap(({ points: p }) => p);
    const starts: number[] = [];
    for (let i = 0, n = 0; i < all.length - 1; i++) starts.push((n += all[i].points.length));
    const triangles = watertight(
      earcut(points.flat(), starts, 2),
      all.map(({ ring }) => ring.length),
      points,
    );
    const base = solid.corners.length;
    all.forEach(({ ring }) =>
      ring.forEach((c) => solid.corners.push([c[0], c[1], c[2], ...normal, ...flat(c), ...c.slice(8)])),
    );
    for (let t = 0; t < triangles.length; t += 3) {
      solid.faces.push(base + triangles[t], base + triangles[t + 1], base + triangles[t + 2]);
      solid.of.push(CUT_FACE);
    }
  }
}

/**
 * Triangles over rings, counter-clockwise, with every step of the rings as an edge and every edge within met from both sides: points on
 * a straight line, which cutting into triangles passes over, are put back.
 */
function watertight(triangles: readonly number[], lengths: readonly number[], points: readonly Point2[]): number[] {
  // All run the same way; of one on a straight line alone its area could not tell.
  let area = 0;
  for (let t = 0; t < triangles.length; t += 3)
    area += signedArea([points[triangles[t]], points[triangles[t + 1]], points[triangles[t + 2]]]);
  const out = area < 0 ? [...triangles].reverse() : [...triangles];
  const loose = looseEdges(out, lengths, points.length);
  const length = ([a, b]: readonly [number, number]): number => {
    const [x, y] = [points[b][0] - points[a][0], points[b][1] - points[a][1]];
    return x * x + y * y;
  };
  const longest = [...loose].map((edge): [number, number] => [Math.floor(edge / points.length), edge % points.length]);
  for (const [a, b] of longest.sort((one, other) => length(other) - length(one))) {
    if (!loose.has(a * points.length + b)) continue;
    const back = wayBack(loose, b, a, points.length);
    if (!back || !goThrough(out, a, back.slice(1, -1).reverse(), b)) continue;
    loose.delete(a * points.length + b);
    back.slice(1).forEach((to, i) => loose.delete(back[i] * points.length + to));
  }
  return out;
}

/** Edges of triangles that neither a triangle on their other side nor a step of a ring meets, and steps that none meets, backwards. */
function looseEdges(triangles: readonly number[], lengths: readonly number[], count: number): Set<number> {
  const loose = new Set<number>();
  const add = (a: number, b: number): void => {
    if (!loose.delete(b * count + a)) loose.add(a * count + b);
  };
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) add(triangles[t + k], triangles[t + ((k + 1) % 3)]);
  let base = 0;
  for (const length of lengths) {
    for (let i = 0; i < length; i++) add(base + ((i + 1) % length), base + i);
    base += length;
  }
  return loose;
}

/** The shortest way along loose edges from one point to another, both included. */
function wayBack(loose: ReadonlySet<number>, from: number, to: number, count: number): number[] | null {
  const ways: number[][] = [[from]];
  const seen = new Set([from]);
  for (const way of ways) {
    const last = way.at(-1)!;
    if (last === to) return way;
    for (const edge of loose) {
      const next = edge % count;
      if (Math.floor(edge / count) !== last || seen.has(next)) continue;
      seen.add(next);
      ways.push([...way, next]);
    }
  }
  return null;
}

/** Takes the triangle at the edge from `a` to `b` apart, so that it goes through points between. @returns whether there is one. */
function goThrough(triangles: number[], a: number, between: readonly number[], b: number): boolean {
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      if (triangles[t + k] !== a || triangles[t + ((k + 1) % 3)] !== b) continue;
      const top = triangles[t + ((k + 2) % 3)];
      const way = [a, ...between, b];
      triangles.splice(t, 3, ...way.slice(1).flatMap((to, i) => [way[i], to, top]));
      return true;
    }
  return false;
}

const dot = (a: Vec3, b: Corner): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vec3, b: Vec3): Vec3 => vec3.cross([0, 0, 0], a, b) as Vec3;

/** Two directions at right angles to a normal, so that the three are right-handed. */
function axesOf([x, y, z]: Vec3): [Vec3, Vec3] {
  const other: Vec3 = Math.abs(y) < 0.9 ? [0, 1, 0] : [1, 0, 0];
  const across = cross(other, [x, y, z]);
  const length = Math.sqrt(dot(across, across));
  const a = across.map((v) => v / length) as Vec3;
  return [a, cross([x, y, z], a)];
}
