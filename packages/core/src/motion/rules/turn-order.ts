import type { TurnOrder } from '../../document/index.ts';
import { DEGREES, identity, multiply, type Vec3 } from '../../geometry/index.ts';
import { rotationAbout, turnTo } from '../pose.ts';
import type { PlaceStep } from './place-step.ts';

const AXES: Readonly<Record<string, Vec3>> = { turn: [0, 1, 0], tilt: [1, 0, 0], roll: [0, 0, 1] };

/** Turn, tilt and roll as they are, put together in another order than the usual one (turn, tilt, roll). */
export function turnOrder(sequence: TurnOrder): PlaceStep {
  const order = sequence.split(', ') as Array<'turn' | 'tilt' | 'roll'>;
  return (thing) => {
    const rotation = order.reduce(
      (sum, name) => multiply(sum, rotationAbout(AXES[name], (thing[name] ?? 0) * DEGREES)),
      identity(),
    );
    turnTo(thing, rotation);
  };
}
