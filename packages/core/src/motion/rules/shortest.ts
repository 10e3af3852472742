import { slerp } from '../../geometry/index.ts';
import { matrixOf, quaternionOf, turnTo, type Placed } from '../pose.ts';
import type { PlaceStep } from './place-step.ts';

/** Between two keyed poses the turn that leads straight from one to the other, as far as the keyed angles are on their way. */
export function shortestTurn(keys: readonly number[]): PlaceStep | null {
  if (keys.length < 2) return null;
  return (thing, frame, before) => {
    if (frame <= keys[0] || frame >= keys[keys.length - 1]) return;
    const next = keys.findIndex((k) => k > frame);
    const [a, b] = [{ ...before(keys[next - 1]) }, { ...before(keys[next]) }];
    turnTo(thing, matrixOf(slerp(quaternionOf(a), quaternionOf(b), shareBetween(a, b, thing))));
  };
}

/** How far the angle that changes most has come. */
function shareBetween(a: Placed, b: Placed, now: Placed): number {
  let [share, most] = [0, 0];
  for (const name of ['turn', 'tilt', 'roll'] as const) {
    const change = (b[name] ?? 0) - (a[name] ?? 0);
    if (Math.abs(change) <= most) continue;
    most = Math.abs(change);
    share = ((now[name] ?? 0) - (a[name] ?? 0)) / change;
  }
  return share;
}
