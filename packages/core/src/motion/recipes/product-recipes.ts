import { DEGREES, multiply, placementMatrix, type Vec3 } from '../../geometry/index.ts';
import { atan2, cos, hypot, pow, sin } from '../../maths/index.ts';
import type { Side } from '../../document/index.ts';
import { anglesOf, rotationAbout } from '../pose.ts';
import type { RecipeBench } from './recipe-bench.ts';

const AXIS: Readonly<Record<string, string>> = { upright: 'turn', tilt: 'tilt', roll: 'roll' };

/** The closing key lies one frame past the last, so that a whole turn loops without a doubled frame. */
export function turntable(bench: RecipeBench): void {
  const path = AXIS[bench.chosen('axis')];
  const degrees = bench.option('turns') * 360 * (bench.is('backwards') ? -1 : 1);
  const { start, things } = bench.recipe;
  for (const id of things) {
    if (!bench.scene.thing(id)) continue;
    const from = bench.scene.number(id, path, start);
    bench.span(id, path, start, bench.end, from, from + degrees);
  }
}

/** A turn that ends where the thing stands. */
function turnIn(bench: RecipeBench, id: string, start: number, end: number, by: number): void {
  if (by === 0) return;
  const turn = bench.scene.number(id, 'turn', end);
  bench.span(id, 'turn', start, end, turn - by, turn);
}

/** As small as a thing can be. */
const NOTHING = 0.001;

export function popIn(bench: RecipeBench): void {
  for (const { id, start, end } of bench.inTurn()) {
    bench.span(id, 'scale', start, end, NOTHING, bench.scene.number(id, 'scale', end));
    turnIn(bench, id, start, end, bench.option('turned'));
    bench.appear(id, start);
  }
}

/** Unit vector to a side, as the camera sees it. */
function towards(bench: RecipeBench, side: Side): Vec3 {
  const [x, , z] = bench.right();
  const sides: Record<Side, Vec3> = {
    left: [-x, 0, -z],
    right: [x, 0, z],
    // The picture's right turned by a quarter: towards the camera.
    front: [-z, 0, x],
    back: [z, 0, -x],
    above: [0, 1, 0],
    below: [0, -1, 0],
  };
  return sides[side];
}

function comeFrom(bench: RecipeBench, id: string, start: number, end: number, from: Vec3): void {
  const place = bench.point(id, 'position', end);
  place.forEach((v, axis) => {
    if (Math.abs(from[axis]) > 1e-12) bench.span(id, `position.${axis}`, start, end, v + from[axis], v);
  });
  bench.appear(id, start);
}

export function slideIn(bench: RecipeBench): void {
  for (const { id, start, end, turn } of bench.inTurn()) {
    const sign = bench.is('mirrored') && turn % 2 === 1 ? -1 : 1;
    const reach = bench.option('distance') * sign;
    const from = towards(bench, bench.chosen('side') as Side).map((v) => v * reach) as Vec3;
    comeFrom(bench, id, start, end, from);
    turnIn(bench, id, start, end, bench.option('turned') * sign);
  }
}

export function drop(bench: RecipeBench): void {
  for (const { id, start, end } of bench.inTurn()) {
    comeFrom(bench, id, start, end, [0, bench.option('height'), 0]);
    turnIn(bench, id, start, end, bench.option('turned'));
  }
}

export function rise(bench: RecipeBench): void {
  for (const { id, start, end } of bench.inTurn()) {
    comeFrom(bench, id, start, end, [0, -bench.option('height'), 0]);
    turnIn(bench, id, start, end, bench.option('turned'));
  }
}

/** Degrees between the phases of neighbours: far from any simple share of a circle, so that few float alike. */
const APART = 137.5;

export function hover(bench: RecipeBench): void {
  const { start, things } = bench.recipe;
  const period = bench.option('period');
  things.forEach((id, i) => {
    if (!bench.scene.thing(id)) return;
    const lift = bench.scene.number(id, 'position.1', start) + bench.option('height');
    bench.key(id, 'position.1', start, lift);
    const wave = (path: string, amount: number, every: number): void =>
      bench.rule(id, path, { kind: 'wave', period: every, amount, axes: [1, 1, 1], phase: i * APART });
    wave('position.1', bench.option('swing'), period);
    if (bench.option('sway') === 0) return;
    wave('tilt', bench.option('sway'), period * 1.31);
    wave('roll', bench.option('sway') * 0.7, period * 1.73);
  });
}

function middleOf(places: readonly Vec3[]): Vec3 {
  return [0, 1, 2].map((axis) => places.reduce((sum, p) => sum + p[axis], 0) / places.length) as Vec3;
}

export function fanOut(bench: RecipeBench): void {
  const turns = bench.inTurn();
  if (turns.length === 0) return;
  const middle = middleOf(turns.map(({ id, end }) => bench.point(id, 'position', end)));
  for (const { id, start, end } of turns) {
    const place = bench.point(id, 'position', end);
    const [dx, dz] = [place[0] - middle[0], place[2] - middle[2]];
    const [reach, heading] = [hypot(dx, dz), atan2(dx, dz)];
    const by = bench.option('swing');
    bench.course(id, 'position', start, end, (share) => {
      const angle = heading - by * DEGREES * (1 - share);
      return [middle[0] + reach * share * sin(angle), place[1], middle[2] + reach * share * cos(angle)];
    });
    turnIn(bench, id, start, end, by);
  }
}

/** The first leads by its own keys, rules and recipes; the others follow in step. */
export function copies(bench: RecipeBench): void {
  const [leader, ...others] = bench.inTurn();
  others.forEach(({ id, start, turn }) => {
    bench.rule(id, '', {
      ...{ kind: 'mimic', target: leader.id, frames: start - leader.start },
      ...{ turn: bench.option('turned') * turn, times: pow(bench.option('times'), turn) },
      ...{ random: bench.option('random'), seed: (bench.option('seed') + turn) >>> 0 },
    });
  });
}

export function lineUp(bench: RecipeBench): void {
  const turns = bench.inTurn();
  if (turns.length === 0) return;
  const [right, between] = [bench.right(), bench.option('between')];
  const middle = middleOf(turns.map(({ id, start }) => bench.point(id, 'position', start)));
  turns.forEach(({ id, start, end }, i) => {
    const by = (i - (turns.length - 1) / 2) * between;
    const from = bench.point(id, 'position', start);
    [0, 2].forEach((axis) =>
      bench.span(id, `position.${axis}`, start, end, from[axis], middle[axis] + right[axis] * by),
    );
  });
}

/** Lying on its side, rolling to its place; when it is there it shows the side that it has at rest. */
export function rollIn(bench: RecipeBench): void {
  const { start, things } = bench.recipe;
  const id = things.find((thing) => bench.scene.thing(thing));
  if (!id) return;
  const from = towards(bench, bench.chosen('side') as Side);
  const [reach, radius] = [bench.option('distance'), bench.option('radius')];
  comeFrom(bench, id, start, bench.end, from.map((v) => v * reach) as Vec3);
  const heading = atan2(-from[0], -from[2]) / DEGREES;
  const lying = placementMatrix([0, 0, 0], heading + 90, 90, bench.scene.number(id, 'turn', start), 1);
  const across: Vec3 = [cos(heading * DEGREES), 0, -sin(heading * DEGREES)];
  const { turn, tilt, roll } = anglesOf(multiply(rotationAbout(across, -reach / radius), lying));
  for (const [path, value] of Object.entries({ turn, tilt, roll })) bench.key(id, path, start, value);
  bench.rule(id, '', { kind: 'roll', radius });
}

export function stopMotion(bench: RecipeBench): void {
  const { start, things, variants } = bench.recipe;
  const every = bench.option('every');
  if (variants.length === 0) return;
  for (const id of things)
    for (let i = 0; bench.scene.thing(id) && start + i * every < bench.end; i++)
      bench.key(id, 'variant', start + i * every, variants[i % variants.length], 'hold');
}

export function variantSwap(bench: RecipeBench): void {
  const { variants } = bench.recipe;
  if (variants.length === 0) return;
  const half = crossing(bench.ease);
  for (const { id, start, end, turn } of bench.inTurn()) {
    const angle = bench.scene.number(id, 'turn', start);
    bench.span(id, 'turn', start, end, angle, angle + bench.option('turns') * 360);
    const { variant } = bench.scene.thing(id) as { variant?: string };
    bench.key(id, 'variant', start, variant ?? '', 'hold');
    bench.key(id, 'variant', start + (end - start) * half, variants[turn % variants.length], 'hold');
  }
}

/** The share of the time at which an ease has come half the way. */
function crossing(ease: (t: number) => number): number {
  for (let i = 1; i <= 200; i++) if (ease(i / 200) >= 0.5) return i / 200;
  return 1;
}
