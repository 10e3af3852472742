import type { Rule } from '../../document/index.ts';
import { DEGREES, type Vec3 } from '../../geometry/index.ts';
import { cos, pow, sin } from '../../maths/index.ts';
import type { PlaceStep, RuleContext } from './place-step.ts';
import { noise } from './noise.ts';
import type { RuleValues } from './rule-values.ts';

type Mimic = Extract<Rule, { kind: 'mimic' }>;

/**
 * Moves as another thing moves from its rest: what that goes, this goes from its own place, turned by as much as this is turned
 * more. What is random is drawn once, so that a copy keeps its character.
 */
export function mimic(rule: Mimic, values: RuleValues, { placed, resting }: RuleContext): PlaceStep | null {
  const rest = resting(rule.target);
  if (!rest) return null;
  const apart = (axis: number): number => rule.random * noise(rule.seed, axis, 0);
  const [delayed, askew, grown] = [1 + apart(0), apart(1) * 180, pow(2, apart(2))];
  return (thing, frame) => {
    const to = placed(rule.target, frame - values.number('frames', frame) * delayed);
    if (!to) return;
    const turned = values.number('turn', frame) + askew;
    const times = values.number('times', frame) * grown;
    const [c, s] = [cos(turned * DEGREES), sin(turned * DEGREES)];
    const [dx, dy, dz] = to.position.map((v, axis) => v - rest.position[axis]);
    const by: Vec3 = [c * dx + s * dz, dy, c * dz - s * dx];
    for (const point of [thing.position, thing.aim]) if (point) by.forEach((v, axis) => void (point[axis] += v));
    if (thing.turn !== undefined) thing.turn += turned + (to.turn ?? 0) - (rest.turn ?? 0);
    if (thing.tilt !== undefined) thing.tilt += (to.tilt ?? 0) - (rest.tilt ?? 0);
    if (thing.roll !== undefined) thing.roll += (to.roll ?? 0) - (rest.roll ?? 0);
    if (thing.scale !== undefined) thing.scale *= (times * (to.scale ?? 1)) / (rest.scale ?? 1);
  };
}
