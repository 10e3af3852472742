import { OWN } from '../../document/index.ts';
import type { RecipeBench } from './recipe-bench.ts';

/** How long before a frame the value that it jumps from is still held, frames. */
const INSTANT = 1e-3;

/**
 * Plays one of a model's own animations over the recipe's length, as often as asked, by keys of its time and of how much it
 * counts. Before it begins the model is as it was.
 */
export function ownAnimation(bench: RecipeBench): void {
  const { start, length, things, ease } = bench.recipe;
  const id = things.find((thing) => bench.scene.thing(thing));
  if (!id) return;
  const path = `${OWN}clips.${bench.chosen('animation')}.`;
  const [from, to] = bench.is('backwards')
    ? [bench.option('to'), bench.option('from')]
    : [bench.option('from'), bench.option('to')];
  const each = length / bench.option('rounds');
  for (let round = 0; round * each < length - INSTANT; round++) {
    const begin = start + round * each;
    const share = Math.min(1, (bench.end - begin) / each);
    bench.key(id, `${path}seconds`, begin, from, ease);
    const last = begin + each * share >= bench.end - INSTANT;
    // The last of a round is held until the next begins: what lies between is a jump, not a run back.
    bench.key(id, `${path}seconds`, begin + each * share - (last ? 0 : INSTANT), from + (to - from) * share, 'hold');
  }
  const blend = Math.min(bench.option('blend'), length / 2);
  const weight = `${path}weight`;
  if (blend > 0) {
    bench.key(id, weight, start, 0, 'linear');
    bench.key(id, weight, start + blend, 1, 'linear');
  } else {
    bench.key(id, weight, start - INSTANT, 0, 'hold');
    bench.key(id, weight, start, 1, 'linear');
  }
  if (bench.chosen('end') !== 'released') return;
  if (blend > 0) bench.key(id, weight, bench.end - blend, 1, 'linear');
  bench.key(id, weight, bench.end, 0, 'hold');
}
