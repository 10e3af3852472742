import { acos, atan2, cos, hypot, sin, tan } from '../maths/index.ts';

/** A corner of a drawn profile: [radius from the axis, height, fillet radius]; metres. */
export type ProfileCorner = readonly [number, number, number?];

/** Share of an edge that an arc may take: not quite half of it where another arc begins at its other end. */
const free = ([, , fillet = 0]: ProfileCorner): number => (fillet > 0 ? 0.4999 : 0.9999);

/**
 * A polyline with its corners rounded by arcs of their fillet radius, each shortened so that neighbouring arcs never
 * overlap. Corners without a radius stay sharp.
 */
export function filletProfile(corners: readonly ProfileCorner[], steps = 6): Array<[number, number]> {
  const out: Array<[number, number]> = [];
  corners.forEach(([r, y, fillet = 0], i) => {
    const before = corners[i - 1];
    const after = corners[i + 1];
    if (!before || !after || fillet <= 0) {
      out.push([r, y]);
      return;
    }
    const la = hypot(before[0] - r, before[1] - y);
    const lb = hypot(after[0] - r, after[1] - y);
    const ax = (before[0] - r) / la;
    const ay = (before[1] - y) / la;
    const bx = (after[0] - r) / lb;
    const by = (after[1] - y) / lb;
    const half = acos(Math.min(1, Math.max(-1, ax * bx + ay * by))) / 2;
    const cut = Math.min(fillet / tan(half), la * free(before), lb * free(after));
    if (!(cut > 1e-9) || half > Math.PI / 2 - 1e-3) {
      out.push([r, y]);
      return;
    }
    const radius = cut * tan(half);
    const bisector = hypot(ax + bx, ay + by);
    const centre = [
      r + ((ax + bx) / bisector) * (radius / sin(half)),
      y + ((ay + by) / bisector) * (radius / sin(half)),
    ];
    const start = atan2(y + ay * cut - centre[1], r + ax * cut - centre[0]);
    let turn = atan2(y + by * cut - centre[1], r + bx * cut - centre[0]) - start;
    if (turn > Math.PI) turn -= 2 * Math.PI;
    if (turn < -Math.PI) turn += 2 * Math.PI;
    for (let k = 0; k <= steps; k++) {
      const angle = start + (turn * k) / steps;
      out.push([centre[0] + cos(angle) * radius, centre[1] + sin(angle) * radius]);
    }
  });
  return out;
}
