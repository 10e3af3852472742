import type { Vec3 } from '../../geometry/index.ts';
import { swing } from './camera-recipes.ts';
import type { RecipeBench } from './recipe-bench.ts';

export function lightSweep(bench: RecipeBench): void {
  const id = bench.recipe.things.find((thing) => bench.scene.thing(thing));
  if (id) swing(bench, id, 0);
}

/** Levels of a lamp that starts badly, as shares, at the frames after it is switched. */
const FLICKER = [0.7, 0.15, 0.9, 0.3] as const;

export function switchOn(bench: RecipeBench): void {
  for (const { id, start, end } of bench.inTurn()) {
    const full = bench.scene.number(id, 'lumens', end);
    bench.key(id, 'lumens', start, 0, bench.is('flicker') ? 'hold' : bench.recipe.ease);
    if (bench.is('flicker'))
      FLICKER.forEach((share, i) => {
        if (start + i + 1 < end) bench.key(id, 'lumens', start + i + 1, full * share, 'hold');
      });
    bench.key(id, 'lumens', end, full);
  }
}

export function reveal(bench: RecipeBench): void {
  const { start, things } = bench.recipe;
  const id = things.find((thing) => bench.scene.thing(thing));
  if (!id) return;
  const right = bench.right();
  const ways: Readonly<Record<string, Vec3>> = {
    left: right.map((v) => -v) as Vec3,
    right,
    above: [0, 1, 0],
    below: [0, -1, 0],
  };
  const by = ways[bench.chosen('side')].map((v) => v * bench.option('distance'));
  for (const path of ['position', 'aim'] as const)
    bench
      .point(id, path, start)
      .forEach((v, axis) => bench.span(id, `${path}.${axis}`, start, bench.end, v, v + by[axis]));
}
