import { RULES, type Rule } from '../../document/index.ts';
import { DEGREES, inverse, multiply, transformPoint, type Vec3 } from '../../geometry/index.ts';
import { atan2, cos, exp, hypot, sin } from '../../maths/index.ts';
import { curveOfPath, type PathCurve } from '../path-curve.ts';
import { standing, turnTo, type Placed } from '../pose.ts';
import { aim } from './aim.ts';
import { mimic } from './mimic.ts';
import type { PlaceStep, RuleContext } from './place-step.ts';
import { rolling } from './roll.ts';
import type { RuleValues } from './rule-values.ts';
import { shortestTurn } from './shortest.ts';
import { turnOrder } from './turn-order.ts';
import { offsetOf } from './value-rules.ts';

type Of<K extends Rule['kind']> = Extract<Rule, { kind: K }>;
/** A share of the path over which its bend is looked at for the tightest place. */
const BEND_SAMPLES = 64;

const bends = new WeakMap<PathCurve, number>();

/** What a rule does to the place of a thing; null when it does nothing there, or what it follows is gone. */
export function placeStep(values: RuleValues, context: RuleContext): PlaceStep | null {
  const { rule } = values;
  switch (rule.kind) {
    case 'aim':
      return aim(rule, values, context);
    case 'mimic':
      return mimic(rule, values, context);
    case 'turn-order':
      return turnOrder(rule.sequence);
    case 'ride':
      return ride(rule, values, context);
    case 'orbit':
      return orbit(rule, values, context);
    case 'follow':
      return follow(rule, values, context);
    case 'parent':
      return carried(rule, context);
    case 'roll':
      return rolling(values, context.length);
    case 'keep-size':
      return keepSize(rule, context);
    case 'shortest':
      return shortestTurn(context.turnKeys);
    default:
      return RULES[rule.kind].ground === 'value' ? moved(rule, values, context.length) : null;
  }
}

/** A rule that adds to values, laid on a place. */
function moved(rule: Rule, values: RuleValues, length: number): PlaceStep | null {
  const offset = offsetOf(values, length);
  if (!offset || (rule.path !== 'position' && rule.path !== 'aim')) return null;
  const { axes } = rule as Of<'wave'>;
  const path = rule.path;
  return (thing, frame) => {
    const at = thing[path];
    if (at) for (let axis = 0; axis < 3; axis++) at[axis] += axes[axis] * offset(frame, axis);
  };
}

function ride(rule: Of<'ride'>, values: RuleValues, { paths }: RuleContext): PlaceStep | null {
  const path = paths.get(rule.target);
  if (!path || path.thing.points.length < 2) return null;
  const bankAt = (curve: PathCurve, curvature: number, frame: number): number => {
    const bank = values.number('bank', frame);
    return bank === 0 ? 0 : (bank * curvature) / tightest(curve);
  };
  return (thing, frame) => {
    const curve = curveOfPath(path.at(frame));
    const { point, tangent, curvature } = curve.at(values.number('progress', frame));
    if (thing.aim) {
      const reach = hypot(...thing.aim.map((v, axis) => v - thing.position[axis]));
      if (rule.orient) thing.aim = point.map((v, axis) => v + tangent[axis] * reach) as Vec3;
      // A camera leans into its bends as whatever carries it would.
      if (thing.roll !== undefined) thing.roll += bankAt(curve, curvature, frame);
    } else if (rule.orient) {
      const level = hypot(tangent[0], tangent[2]);
      if (thing.turn !== undefined) thing.turn += atan2(tangent[0], tangent[2]) / DEGREES;
      if (thing.tilt !== undefined) thing.tilt -= atan2(tangent[1], level) / DEGREES;
      if (thing.roll !== undefined) thing.roll -= bankAt(curve, curvature, frame);
    }
    thing.position = [...point];
  };
}

/** The bend of a path at its tightest, 1/m; found out once. */
function tightest(curve: PathCurve): number {
  let most = bends.get(curve);
  if (most === undefined) {
    most = 1e-9;
    for (let i = 0; i <= BEND_SAMPLES; i++)
      most = Math.max(most, Math.abs(curve.at((i / BEND_SAMPLES) * (1 - 1e-9)).curvature));
    bends.set(curve, most);
  }
  return most;
}

function orbit(rule: Of<'orbit'>, values: RuleValues, { placed }: RuleContext): PlaceStep {
  return (thing, frame) => {
    const centre = rule.target ? placed(rule.target, frame)?.position : thing.aim;
    if (!centre) return;
    const [dx, dy, dz] = thing.position.map((v, axis) => v - centre[axis]);
    const level = hypot(dx, dz);
    const reach = hypot(level, dy) * values.number('distance', frame);
    const turned = values.number('azimuth', frame);
    const azimuth = atan2(dx, dz) + turned * DEGREES;
    const up = atan2(dy, level) / DEGREES + values.number('elevation', frame);
    const elevation = Math.min(89.9, Math.max(-89.9, up)) * DEGREES;
    thing.position = [
      centre[0] + reach * cos(elevation) * sin(azimuth),
      centre[1] + reach * sin(elevation),
      centre[2] + reach * cos(elevation) * cos(azimuth),
    ];
    // What has no aim goes round like a thing on a disc: the same side stays to the middle.
    if (!thing.aim && thing.turn !== undefined) thing.turn += turned;
  };
}

/** Steps of a frame in which a lag is worked out. */
const LAG_STEPS = 8;

function follow(rule: Of<'follow'>, values: RuleValues, { placed, resting }: RuleContext): PlaceStep | null {
  const rest = resting(rule.target);
  if (!rest) return null;
  const { lag } = rule;
  const goal = (frame: number): Vec3 | null => placed(rule.target, frame)?.position ?? null;
  const behind = lag > 0 ? lagging(goal, lag) : goal;
  return (thing, frame) => {
    const at = behind(frame - values.number('frames', frame));
    if (!at) return;
    const by = at.map((v, axis) => v - rest.position[axis]);
    for (const point of [thing.position, thing.aim]) if (point) by.forEach((v, axis) => void (point[axis] += v));
  };
}

/**
 * A point that goes after another with a lag, in frames: x' = (goal - x) / lag, solved exactly over steps in which the goal
 * goes straight. What is before frame 0 counts as rest. Each step is worked out once, in order, so that any frame can be
 * asked for and always gives the same.
 */
function lagging(goal: (frame: number) => Vec3 | null, lag: number): (frame: number) => Vec3 | null {
  const known: Vec3[] = [];
  const step = 1 / LAG_STEPS;
  const kept = exp(-step / lag);
  return (frame) => {
    const start = goal(0);
    if (!start || frame <= 0) return start;
    if (known.length === 0) known.push([...start]);
    const whole = Math.floor(frame * LAG_STEPS);
    let from = known.length > whole ? null : goal((known.length - 1) * step);
    while (known.length <= whole + 1) {
      const i = known.length - 1;
      const begin = from ?? goal(i * step)!;
      const end = goal((i + 1) * step) ?? begin;
      const x = known[i];
      known.push(
        [0, 1, 2].map((a) => {
          const behind = ((end[a] - begin[a]) / step) * lag;
          return end[a] - behind + (x[a] - begin[a] + behind) * kept;
        }) as Vec3,
      );
      from = end;
    }
    const share = frame * LAG_STEPS - whole;
    const [a, b] = [known[whole], known[whole + 1]];
    return a.map((v, axis) => v + (b[axis] - v) * share) as Vec3;
  };
}

/** Until its first frame nothing happens, and after its last the thing stays where it was carried to: no jump at either. */
function carried({ target, start, end }: Of<'parent'>, { placed }: RuleContext): PlaceStep {
  return (thing, frame) => {
    const now = Math.min(frame, Math.max(start, end));
    if (now <= start) return;
    const [from, to] = [placed(target, start), placed(target, now)];
    if (!from || !to) return;
    const by = multiply(standing(to), inverse(standing(from)));
    const own = standing(thing);
    thing.position = transformPoint(by, thing.position);
    if (thing.aim) thing.aim = transformPoint(by, thing.aim);
    const grown = (to.scale ?? 1) / (from.scale ?? 1);
    if (thing.scale !== undefined) thing.scale *= grown;
    if (thing.aim) return;
    const turned = multiply(by, own);
    const size = hypot(turned[0], turned[1], turned[2]);
    turnTo(
      thing,
      turned.map((v) => v / size),
    );
  };
}

type Lens = Placed & { focalLength?: number };

function keepSize(rule: Of<'keep-size'>, { placed }: RuleContext): PlaceStep {
  const distance = (thing: Placed, frame: number): number | null => {
    const to = rule.target ? placed(rule.target, frame)?.position : thing.aim;
    return to ? hypot(...to.map((v, axis) => v - thing.position[axis])) : null;
  };
  return (thing: Lens, frame, before) => {
    if (thing.focalLength === undefined) return;
    const first = before(rule.start) as Lens;
    const [then, now] = [distance(first, rule.start), distance(thing, frame)];
    if (then && now) thing.focalLength = Math.min(1200, Math.max(4, (first.focalLength! * now) / then));
  };
}
