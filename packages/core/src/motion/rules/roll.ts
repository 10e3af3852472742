import { multiply, type Vec3 } from '../../geometry/index.ts';
import { atan2, hypot } from '../../maths/index.ts';
import { rotationAbout, standing, turnTo, type Placed } from '../pose.ts';
import type { RuleValues } from './rule-values.ts';
import type { PlaceStep } from './place-step.ts';

/** Steps of a frame in which a bent way is measured. */
const STEPS = 16;
/** Metres that count as no distance. */
const NONE = 1e-12;

interface Way {
  /** Where it first goes, level: a heading in radians. */
  first: number;
  /** How far it has rolled at a frame, metres, backwards negative; and its heading. */
  at: (frame: number) => { gone: number; heading: number };
}

/**
 * Rolls a thing as far as it goes: its turn about the level axis across its way is distance over radius, from the pose that it
 * has by itself, and it heads where it goes. On a straight way the distance is taken straight, so that nothing slips.
 */
export function rolling(values: RuleValues, length: number): PlaceStep {
  let way: Way | null = null;
  return (thing, frame, before) => {
    way ??= wayOf((f) => before(f).position, length);
    const { gone, heading } = way.at(frame);
    // Up is Y; the axis lies across the way, so that the top goes forward.
    const [s, c] = [rotationAbout([0, 1, 0], way.first), rotationAbout([0, 1, 0], heading - way.first)];
    const across: Vec3 = [s[0], s[1], s[2]];
    const spin = rotationAbout(across, gone / values.number('radius', frame));
    const own = standing({ ...(thing as Placed), scale: 1 });
    turnTo(thing, multiply(c, multiply(spin, own)));
  };
}

/** The way of a point over the shot. */
function wayOf(at: (frame: number) => Vec3, length: number): Way {
  const start = at(0);
  let [far, reach] = [start, 0];
  const points: Vec3[] = [];
  for (let i = 0; i <= length * STEPS; i++) {
    const p = [...at(i / STEPS)] as Vec3;
    points.push(p);
    const d = hypot(p[0] - start[0], p[1] - start[1], p[2] - start[2]);
    if (d > reach) [far, reach] = [p, d];
  }
  if (reach < NONE) return { first: 0, at: () => ({ gone: 0, heading: 0 }) };
  const line = far.map((v, a) => (v - start[a]) / reach) as Vec3;
  const off = (p: Vec3): number => {
    const d = p.map((v, a) => v - start[a]);
    const on = d[0] * line[0] + d[1] * line[1] + d[2] * line[2];
    return hypot(d[0] - on * line[0], d[1] - on * line[1], d[2] - on * line[2]);
  };
  if (points.every((p) => off(p) <= 1e-9 * reach + NONE)) return straight(at, start, line);
  return bent(points, length);
}

function straight(at: (frame: number) => Vec3, start: Vec3, line: Vec3): Way {
  const heading = atan2(line[0], line[2]);
  return {
    first: heading,
    at: (frame) => {
      const p = at(frame);
      return { gone: p.reduce((sum, v, a) => sum + (v - start[a]) * line[a], 0), heading };
    },
  };
}

/** A way by its chords; where it turns back it rolls back, its heading stays. */
function bent(points: readonly Vec3[], length: number): Way {
  const gone = new Float64Array(points.length);
  const headings = new Float64Array(points.length);
  let heading = NaN;
  for (let i = 1; i < points.length; i++) {
    const [dx, dy, dz] = points[i].map((v, a) => v - points[i - 1][a]);
    const d = hypot(dx, dy, dz);
    let sign = 1;
    if (hypot(dx, dz) > NONE) {
      const now = atan2(dx, dz);
      if (Number.isNaN(heading)) {
        heading = now;
        headings.fill(now, 0, i);
      }
      let by = (now - heading) / (2 * Math.PI);
      by = (by - Math.round(by)) * 2 * Math.PI;
      if (Math.abs(by) > Math.PI / 2) {
        sign = -1;
        by -= Math.sign(by) * Math.PI;
      }
      heading += by;
    }
    gone[i] = gone[i - 1] + sign * d;
    headings[i] = heading;
  }
  // A chord's heading is that of its middle: at a point it is the mean of those on both sides.
  for (let i = 0; i + 1 < headings.length; i++)
    headings[i] = i === 0 ? headings[1] : (headings[i] + headings[i + 1]) / 2;
  const between = (list: Float64Array, frame: number): number => {
    const x = Math.min(length, Math.max(0, frame)) * STEPS;
    const i = Math.min(list.length - 2, Math.floor(x));
    return list[i] + (list[i + 1] - list[i]) * (x - i);
  };
  return {
    first: Number.isNaN(heading) ? 0 : headings[0],
    at: (frame) => ({ gone: between(gone, frame), heading: between(headings, frame) || 0 }),
  };
}
