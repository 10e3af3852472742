import { DEGREES, type Vec3 } from '../../geometry/index.ts';
import { atan2, cos, hypot, sin } from '../../maths/index.ts';
import type { SetCamera } from '../../document/index.ts';
import type { RecipeBench } from './recipe-bench.ts';

const add = (a: Vec3, b: Vec3, by = 1): Vec3 => [a[0] + b[0] * by, a[1] + b[1] * by, a[2] + b[2] * by];
const mix = (a: Vec3, b: Vec3, t: number): Vec3 => [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t) as Vec3;

/** Position, and aim where it is given, from one place to another. */
function travel(bench: RecipeBench, path: 'position' | 'aim', from: Vec3, to: Vec3): void {
  const { camera, start } = bench.recipe;
  from.forEach((v, axis) => bench.span(camera, `${path}.${axis}`, start, bench.end, v, to[axis]));
}

/** Where the camera stands as the recipe begins, and what it looks at. */
function view(bench: RecipeBench, frame = bench.recipe.start): { position: Vec3; aim: Vec3 } {
  const { camera } = bench.recipe;
  return { position: bench.point(camera, 'position', frame), aim: bench.point(camera, 'aim', frame) };
}

export function pushIn(bench: RecipeBench): void {
  const { position, aim } = view(bench);
  travel(bench, 'position', position, mix(position, aim, bench.option('closer')));
}

export function pullBack(bench: RecipeBench): void {
  const { position, aim } = view(bench);
  travel(bench, 'position', mix(position, aim, bench.option('closer')), position);
}

export function crane(bench: RecipeBench): void {
  const { position } = view(bench);
  travel(bench, 'position', position, add(position, [0, 1, 0], bench.option('height')));
}

export function slider(bench: RecipeBench): void {
  const { position, aim } = view(bench);
  const [long, right] = [bench.option('across'), bench.right()];
  const from = bench.is('centred') ? -long / 2 : 0;
  travel(bench, 'position', add(position, right, from), add(position, right, from + long));
  travel(bench, 'aim', add(aim, right, from), add(aim, right, from + long));
}

/** Swings something round what it aims at: by angles of a rule, so that the way is a true arc. */
export function swing(bench: RecipeBench, thing: string, climb: number): void {
  const { start, ease } = bench.recipe;
  const sweep = bench.option('sweep');
  const half = bench.is('centred') ? 0.5 : 0;
  const keys = (whole: number) => [
    { frame: start, value: -whole * half, ease },
    { frame: bench.end, value: whole * (1 - half), ease: 'eased' as const },
  ];
  bench.rule(
    thing,
    '',
    { kind: 'orbit', target: '', azimuth: 0, elevation: 0, distance: 1 },
    { azimuth: keys(sweep), ...(climb !== 0 ? { elevation: keys(climb) } : {}) },
  );
}

export function orbitArc(bench: RecipeBench): void {
  swing(bench, bench.recipe.camera, bench.option('climb'));
}

export function whip(bench: RecipeBench): void {
  const { position, aim } = view(bench, bench.end);
  const [dx, , dz] = aim.map((v, axis) => v - position[axis]);
  const [reach, heading] = [hypot(dx, dz), atan2(dx, dz)];
  const sweep = bench.option('sweep') * DEGREES;
  bench.course(bench.recipe.camera, 'aim', bench.recipe.start, bench.end, (share) => {
    const angle = heading + sweep * (1 - share);
    return [position[0] + reach * sin(angle), aim[1], position[2] + reach * cos(angle)];
  });
}

export function dollyZoom(bench: RecipeBench): void {
  pushIn(bench);
  bench.rule(bench.recipe.camera, '', { kind: 'keep-size', target: '', start: bench.recipe.start });
}

export function handheld(bench: RecipeBench): void {
  const { camera } = bench.recipe;
  const { position, aim } = view(bench);
  const reach = hypot(...aim.map((v, axis) => v - position[axis])) * bench.option('strength');
  const [period, seed] = [bench.option('period'), bench.option('seed')];
  const drift = (path: 'position' | 'aim', amount: number, every: number, part: number): void =>
    bench.rule(camera, path, {
      kind: 'drift',
      ...{ period: every, amount, axes: [1, 1, 0.5], seed: (seed + part) >>> 0, seamless: false },
    });
  // A body sways slowly, hands tremble: two speeds of each.
  drift('position', reach * 0.006, period, 0);
  drift('aim', reach * 0.008, period * 0.8, 1);
  drift('aim', reach * 0.0016, period * 0.22, 2);
  bench.rule(camera, 'roll', {
    kind: 'drift',
    ...{ period: period * 1.1, amount: 0.5 * bench.option('strength'), axes: [1, 1, 1], seed: (seed + 3) >>> 0 },
    seamless: false,
  });
}

/** Past each product on the camera's side of it, with a run-up and a run-out; the aim goes along from one to the next. */
export function flyPast(bench: RecipeBench): void {
  const { start, length, things, camera } = bench.recipe;
  const { position, aim } = view(bench);
  const places = things.filter((id) => bench.scene.thing(id)).map((id) => bench.point(id, 'position', start));
  if (places.length === 0) return;
  const towards = level([position[0] - aim[0], 0, position[2] - aim[2]]);
  const [near, height] = [bench.option('near'), bench.option('height')];
  const stops = places.map((p): Vec3 => [p[0] + towards[0] * near, p[1] + height, p[2] + towards[2] * near]);
  const way = places.length > 1 ? level(add(places[places.length - 1], places[0], -1)) : bench.right();
  const points = [add(stops[0], way, -near), ...stops, add(stops[stops.length - 1], way, near)];
  const id = bench.path(points);
  const ease = bench.recipe.ease;
  bench.rule(
    camera,
    '',
    { kind: 'ride', target: id, progress: 0, orient: false, bank: 0 },
    {
      progress: [
        { frame: start, value: 0, ease },
        { frame: bench.end, value: 1, ease: 'eased' },
      ],
    },
  );
  places.forEach((place, i) => {
    const at: Vec3 = [place[0], aim[1], place[2]];
    at.forEach((v, axis) => bench.key(camera, `aim.${axis}`, start + (length * (i + 1)) / (places.length + 1), v));
  });
}

const level = ([x, , z]: Vec3): Vec3 => {
  const long = hypot(x, z);
  return long < 1e-9 ? [0, 0, 1] : [x / long, 0, z / long];
};

/** Focus rests on each product for its share of the time, and goes to the next in what is left. */
export function focusPull(bench: RecipeBench): void {
  const { start, length, things, camera } = bench.recipe;
  const there = things.filter((id) => bench.scene.thing(id));
  if (there.length === 0) return;
  const focusOn = (bench.scene.thing(camera) as SetCamera | undefined)?.focusOn;
  // A lens that keeps a thing in focus by itself would not follow keys.
  if (focusOn) bench.key(camera, 'focusOn', start, '', 'hold');
  const each = length / there.length;
  const rest = (each * bench.option('hold')) / 2;
  there.forEach((id, i) => {
    const middle = start + each * (i + 0.5);
    const first = i === 0 ? start : middle - rest;
    const last = i === there.length - 1 ? bench.end : middle + rest;
    bench.key(camera, 'focus', first, depthOf(bench, id, first), 'linear');
    bench.key(camera, 'focus', Math.max(last, first + 1e-3), depthOf(bench, id, last), bench.recipe.ease);
  });
}

/** Depth of a product before the camera at a frame, at the height that the camera looks at. */
function depthOf(bench: RecipeBench, id: string, frame: number): number {
  const { position, aim } = view(bench, frame);
  const place = bench.point(id, 'position', frame);
  const look = aim.map((v, axis) => v - position[axis]);
  const reach = Math.max(1e-9, hypot(...look));
  const depth = [place[0], aim[1], place[2]].reduce((sum, v, a) => sum + ((v - position[a]) * look[a]) / reach, 0);
  return Math.max(0.01, depth);
}
