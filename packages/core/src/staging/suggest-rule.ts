import {
  findThing,
  freshName,
  namesOf,
  propertyOf,
  RULES,
  thingsOf,
  type MovePath,
  type Point,
  type ProductDocument,
  type Rule,
  type RuleDoes,
  type RuleKind,
  type SetDocument,
  type ShotDocument,
} from '../document/index.ts';
import { wouldRing } from '../motion/index.ts';
import { rollingRadius } from './rolling-radius.ts';
import { readProperty, type Property } from '../properties/index.ts';

/** What a rule is made up for. */
export interface RuleAsk {
  id: string;
  /** The set as it stands at the playhead. */
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  thing: string;
  /** Empty for the whole thing. */
  path: string;
  frame: number;
}

/** Things that another one can look at, follow or be carried by without a ring, the nearest by kind first. */
export function rulePartners(rule: Rule, set: SetDocument, shot: ShotDocument): Array<{ id: string; name: string }> {
  return thingsOf(set)
    .filter(({ thing, id }) => 'position' in thing && !wouldRing({ ...rule, target: id } as Rule, shot.rules))
    .map(({ id, name }) => ({ id, name }));
}

/**
 * A rule as it suits what it is laid on: its amount by the property's unit, its target the first that it can have, so that
 * nothing jumps when it begins. @returns null where it would have nothing to act on or to look at.
 */
export function suggestRule(kind: RuleKind, ask: RuleAsk): Rule | null {
  const { id, set, shot, thing, path, frame } = ask;
  const found = findThing(set, thing);
  if (!found) return null;
  const { title, usual, target } = RULES[kind];
  const rule = {
    ...{ id, name: freshName(namesOf(shot.rules), title), thing, path, muted: false },
    ...(JSON.parse(JSON.stringify(usual)) as RuleDoes),
  } as Rule;
  if ('amount' in rule) rule.amount = amountFor(propertyOf(found, path), readProperty(found.thing, path));
  if ('start' in rule) rule.start = frame;
  if (rule.kind === 'roll') rule.radius = rollingRadius(set, ask.products, thing);
  if (target === 'path') return shot.paths.length > 0 ? ({ ...rule, target: shot.paths.at(-1)!.id } as Rule) : null;
  if (!target) return rule;
  const aimed = 'aim' in found.thing;
  if (target === 'thing or own aim' && aimed) return rule;
  const [partner] = rulePartners(rule, set, shot);
  if (!partner) return null;
  const made = { ...rule, target: partner.id } as Rule;
  if (made.kind === 'aim' && aimed) {
    const to = (findThing(set, partner.id)!.thing as { position: Point }).position;
    made.offset = (found.thing as { aim: Point }).aim.map((v, a) => Number((v - to[a]).toFixed(5))) as Point;
  }
  return made;
}

/** A centimetre, five degrees, or a fifth of what is there. */
function amountFor(property: Property | undefined, value: unknown): number {
  if (!property || property.type === 'place' || property.type === 'colour') return 0.01;
  if (property.type === 'turn') return 5;
  if (property.type !== 'number') return 0;
  if (property.display.unit === 'cm') return 0.01;
  if (property.display.unit === 'deg') return 5;
  return Math.abs((value as number) * 0.2) || (property.max - property.min) / 20;
}

/** A path that begins where a thing is: across the set in a gentle bend. */
export function suggestPath(id: string, set: SetDocument, shot: ShotDocument, thing: string): MovePath {
  const found = findThing(set, thing)?.thing as { position?: Point } | undefined;
  const [x, y, z] = found?.position ?? [0, 0, 0];
  const steps: Point[] = [
    [x, y, z],
    [x + 0.15, y, z + 0.08],
    [x + 0.3, y, z],
  ];
  return {
    id,
    name: freshName(namesOf(shot.paths), 'Path'),
    closed: false,
    points: steps.map((at, i) => ({ id: `${id}-${i}`, at, handles: null })),
  };
}
