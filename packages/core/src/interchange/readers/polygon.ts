import earcut from 'earcut';

/** Corners of a polygon in space, three numbers each. */
type Corners = ArrayLike<number>;

/**
 * Triangles of a polygon, three numbers of corners each, in its own winding. Concave outlines are cut in the polygon's
 * plane (ear clipping, FIST after Held 2001). A polygon without area becomes a fan, so that no corner is lost.
 *
 * @param corners x, y, z of each corner in turn
 */
export function polygonTriangles(corners: Corners): number[] {
  const count = corners.length / 3;
  if (count < 3) return [];
  if (count === 3) return [0, 1, 2];
  const [nx, ny, nz] = newellNormal(corners, count);
  // The plane is looked at along its strongest axis, from the side that the normal points to.
  const [ax, ay, az] = [Math.abs(nx), Math.abs(ny), Math.abs(nz)];
  let [u, v] = [0, 1];
  let sign = nz;
  if (ax >= ay && ax >= az) [u, v, sign] = [1, 2, nx];
  else if (ay >= az) [u, v, sign] = [2, 0, ny];
  if (sign === 0 || !Number.isFinite(sign)) return fan(count);
  const flat = new Array<number>(count * 2);
  for (let i = 0; i < count; i++) {
    flat[i * 2] = corners[i * 3 + u];
    flat[i * 2 + 1] = corners[i * 3 + v];
  }
  if (count === 4) return quadTriangles(flat, sign > 0 ? 1 : -1);
  const cut = earcut(flat);
  if (cut.length === 0) return fan(count);
  // Ear clipping gives one winding whatever it was given.
  for (let t = 0; t < cut.length; t += 3) {
    if (turn(flat, cut[t], cut[t + 1], cut[t + 2]) * sign < 0) [cut[t + 1], cut[t + 2]] = [cut[t + 2], cut[t + 1]];
  }
  return cut;
}

/** Cut along the diagonal that keeps both triangles inside. */
function quadTriangles(flat: readonly number[], sign: number): number[] {
  const first = turn(flat, 0, 1, 2) * sign >= 0 && turn(flat, 0, 2, 3) * sign >= 0;
  return first ? [0, 1, 2, 0, 2, 3] : [0, 1, 3, 1, 2, 3];
}

/** Twice the signed area of a triangle in the plane. */
function turn(flat: readonly number[], a: number, b: number, c: number): number {
  const [ax, ay] = [flat[a * 2], flat[a * 2 + 1]];
  return (flat[b * 2] - ax) * (flat[c * 2 + 1] - ay) - (flat[c * 2] - ax) * (flat[b * 2 + 1] - ay);
}

/** Area-weighted normal of a polygon that need not be flat (Newell's method). */
function newellNormal(corners: Corners, count: number): [number, number, number] {
  let [nx, ny, nz] = [0, 0, 0];
  for (let i = 0, j = count - 1; i < count; j = i++) {
    const [xi, yi, zi] = [corners[i * 3], corners[i * 3 + 1], corners[i * 3 + 2]];
    const [xj, yj, zj] = [corners[j * 3], corners[j * 3 + 1], corners[j * 3 + 2]];
    nx += (yj - yi) * (zj + zi);
    ny += (zj - zi) * (xj + xi);
    nz += (xj - xi) * (yj + yi);
  }
  return [nx, ny, nz];
}

function fan(count: number): number[] {
  const out: number[] = [];
  for (let i = 2; i < count; i++) out.push(0, i - 1, i);
  return out;
}
