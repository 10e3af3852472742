import { PART_JOINT } from '../../document/index.ts';
import type { RecipeBench } from './recipe-bench.ts';

/** Share of the time in which a lid comes off its thread, and how far it rises in it. */
const LOOSE = 0.45;
const THREAD = 0.12;

const PARTS = new RegExp(`^[0-9]+(${PART_JOINT}[0-9]+)*$`);

/** The own path of the parts that a recipe moves, or null when none is named. */
function partPath(bench: RecipeBench, name: string): string | null {
  const part = bench.chosen('part');
  return PARTS.test(part) ? `own.parts.${part}.${name}` : null;
}

export function lidOff(bench: RecipeBench): void {
  const { start, things } = bench.recipe;
  const id = things.find((thing) => bench.scene.thing(thing));
  if (!id) return;
  const [length, backwards] = [bench.end - start, bench.is('backwards')];
  /** From a share of the time to another, the other way round when the lid is put on. */
  const span = (name: string, from: number, to: number, first: number, last: number): void => {
    const path = partPath(bench, name);
    if (!path || first === last) return;
    if (backwards) bench.span(id, path, bench.end - to * length, bench.end - from * length, last, first);
    else bench.span(id, path, start + from * length, start + to * length, first, last);
  };
  const height = bench.option('height');
  // Seen from above a lid comes off against the clock.
  span('turn', 0, LOOSE, 0, bench.option('turns') * 360);
  const path = partPath(bench, 'shift.1');
  if (path && height !== 0) {
    const steps = [0, LOOSE, 1].map((t) => [t, t === 0 ? 0 : t === 1 ? height : height * THREAD] as const);
    for (const [t, value] of steps)
      bench.key(id, path, backwards ? bench.end - t * length : start + t * length, value, bench.recipe.ease);
  }
  span('shift.0', 0.6, 1, 0, bench.option('aside'));
  span('roll', 0.6, 1, 0, -bench.option('tipped'));
}

/** Which own number swings a lid about each hinge, and to which side it opens. */
const SWING: Readonly<Record<string, readonly [string, number]>> = {
  back: ['tilt', -1],
  front: ['tilt', 1],
  left: ['roll', 1],
  right: ['roll', -1],
  middle: ['tilt', -1],
  base: ['tilt', -1],
  top: ['tilt', -1],
};

export function boxOpen(bench: RecipeBench): void {
  const { start, things } = bench.recipe;
  const id = things.find((thing) => bench.scene.thing(thing));
  if (!id) return;
  const [closed, angle] = [bench.option('closed'), bench.option('angle')];
  const hinge = bench.chosen('hinge');
  const [name, sign] = SWING[hinge];
  const path = partPath(bench, name);
  if (!path) {
    bench.span(id, 'own.body.carton.open', start, bench.end, closed, angle);
    return;
  }
  bench.key(id, partPath(bench, 'hinge')!, start, hinge, 'hold');
  // Added to nothing, so that no angle is a negative zero.
  bench.span(id, path, start, bench.end, 0 + sign * closed, 0 + sign * angle);
}

export function fillUp(bench: RecipeBench): void {
  for (const { id, start, end } of bench.inTurn())
    bench.span(id, 'own.body.turned.fill', start, end, bench.option('empty'), bench.option('full'));
}
