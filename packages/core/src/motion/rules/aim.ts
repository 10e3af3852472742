import { PART_JOINT, type PosedProduct, type Rule } from '../../document/index.ts';
import { DEGREES, transformPoint, type Vec3 } from '../../geometry/index.ts';
import { atan2, hypot } from '../../maths/index.ts';
import { standing, type Placed } from '../pose.ts';
import type { PlaceStep, RuleContext } from './place-step.ts';
import type { RuleValues } from './rule-values.ts';

type Aim = Extract<Rule, { kind: 'aim' }>;

/** Looks at a thing, or at a part of it wherever the thing turns and the part is shifted to. */
export function aim(rule: Aim, values: RuleValues, { placed }: RuleContext): PlaceStep {
  return (thing, frame) => {
    const to = placed(rule.target, frame);
    if (!to) return;
    const point = rule.part ? partOf(rule, to) : (to.position.map((v, axis) => v + rule.offset[axis]) as Vec3);
    if (thing.roll !== undefined) thing.roll += values.number('roll', frame);
    if (thing.aim) {
      thing.aim = point;
      return;
    }
    const [dx, dy, dz] = point.map((v, axis) => v - thing.position[axis]);
    if (thing.turn !== undefined) thing.turn = atan2(dx, dz) / DEGREES;
    if (thing.tilt !== undefined) thing.tilt = atan2(-dy, hypot(dx, dz)) / DEGREES;
  };
}

/** The middle of a part: where it rests in the thing, with the shifts that own values give it now. */
function partOf({ part, offset }: Aim, to: Placed): Vec3 {
  const middle = [...offset] as Vec3;
  const { own = {} } = to as Partial<PosedProduct>;
  const parts = part.split(PART_JOINT);
  for (const [name, value] of Object.entries(own)) {
    const [group, item, property, axis] = name.split('.');
    if (group !== 'parts' || property !== 'shift' || !parts.some((p) => item.split(PART_JOINT).includes(p))) continue;
    if (Array.isArray(value)) value.forEach((v, i) => void (middle[i] += v));
    else middle[Number(axis)] += value as number;
  }
  return transformPoint(standing(to), middle);
}
