import {
  OWN,
  propertyOf,
  RULES,
  thingIndex,
  type FoundThing,
  type LinkedEase,
  type Rule,
  type SetDocument,
  type SetThing,
  type ShotDocument,
  type ThingList,
  type Track,
} from '../document/index.ts';
import {
  fitNumber,
  readProperty,
  type NumberProperty,
  type Property,
  type PropertyValue,
} from '../properties/index.ts';
import { compileCurve, type Curve } from './curve.ts';
import { expandMoves } from './expand.ts';
import { isPlaced, type Placed } from './pose.ts';
import { CurvePoser, RulePoser, type Channel, type Copied, type Mover, type MoverSource } from './poser.ts';
import { offsetOf, placeStep, retimed, RuleValues, type PlaceStep, type RuleContext } from './rules/index.ts';
import { pathMover } from './path-mover.ts';
import { withoutRings } from './rings.ts';

/** A set and a shot with all tracks, rules and recipes resolved. Kept for as long as both documents stand. */
export interface CompiledMoves {
  readonly set: SetDocument;
  readonly shot: ShotDocument;
  /** By the id of the thing; things that do not move are not in it. */
  readonly posers: ReadonlyMap<string, Mover>;
}

const kept = new WeakMap<ShotDocument, WeakMap<SetDocument, CompiledMoves>>();
const moversOf = new WeakMap<SetThing, { source: MoverSource; mover: Mover | null }>();

/**
 * Resolves the tracks, rules and recipes of a shot against a set, once for each pair of documents; what did not change since
 * an earlier pair is taken over. Tracks whose thing is gone, whose property its kind does not have, or whose keys hold another
 * type of value are passed over, and so are rules whose target is gone: a shot outlives what was deleted from its set.
 *
 * The order: keys (with rules on their threads) give each value; rules on the thing act on its place as listed; seating comes
 * last, in the scene, and touches height alone.
 */
export function compileMoves(set: SetDocument, shot: ShotDocument): CompiledMoves {
  const sets = kept.get(shot) ?? new WeakMap<SetDocument, CompiledMoves>();
  kept.set(shot, sets);
  const known = sets.get(set);
  if (known) return known;
  const { tracks, rules, paths } = expandMoves(set, shot);
  const byThing = grouped(tracks);
  const rulesOf = grouped(withoutRings(rules));
  const posers = new Map<string, Mover>();
  const things = thingIndex(set);
  const context: Omit<RuleContext, 'turnKeys'> = {
    length: shot.length,
    paths: new Map(paths.map((path) => [path.id, pathMover(path, byThing.get(path.id) ?? [], shot.eases)])),
    placed: (id, frame) => placedIn(posers.get(id)?.at(frame) ?? things.get(id)?.thing),
    resting: (id) => placedIn(things.get(id)?.thing),
  };
  for (const id of new Set([...byThing.keys(), ...rulesOf.keys()])) {
    const found = things.get(id);
    const own = byThing.get(id) ?? [];
    const acting = rulesOf.get(id) ?? [];
    const mover = found && moverFor(found, own, acting, byThing, shot, context);
    if (mover) posers.set(id, mover);
  }
  const moves = { set, shot, posers };
  sets.set(set, moves);
  return moves;
}

function grouped<T extends { thing: string }>(items: readonly T[]): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) {
    const group = groups.get(item.thing);
    if (group) group.push(item);
    else groups.set(item.thing, [item]);
  }
  return groups;
}

const placedIn = (thing: SetThing | undefined): Placed | null => (thing && isPlaced(thing) ? (thing as Placed) : null);

function moverFor(
  found: FoundThing,
  tracks: readonly Track[],
  rules: readonly Rule[],
  byThing: ReadonlyMap<string, readonly Track[]>,
  shot: ShotDocument,
  context: Omit<RuleContext, 'turnKeys'>,
): Mover | null {
  const { eases: linked, length } = shot;
  const source = { tracks, linked };
  const known = moversOf.get(found.thing);
  // Rules look at other things, so a thing with rules is made anew with every change.
  if (known && rules.length === 0 && sameSource(known.source, source)) return known.mover;
  const values = rules.map((rule) => new RuleValues(rule, byThing.get(rule.id) ?? [], linked));
  const base = curvePoser(found, tracks, linked, values, length);
  const turnKeys = turnFrames(tracks);
  const steps = values
    .filter(({ rule }) => rule.path === '' || isPlacePath(rule.path))
    .map((value) => placeStep(value, { ...context, turnKeys }))
    .filter((step): step is PlaceStep => step !== null);
  const still = { thing: found.thing, at: () => found.thing };
  const mover = steps.length > 0 ? new RulePoser(base ?? still, steps) : base;
  if (rules.length === 0) moversOf.set(found.thing, { source, mover });
  return mover;
}

function sameSource(a: MoverSource, b: MoverSource): boolean {
  return (
    a.tracks.length === b.tracks.length &&
    a.tracks.every((t, i) => t === b.tracks[i]) &&
    // Most shots share no ease, each by a list of its own.
    (a.linked === b.linked || a.linked.length + b.linked.length === 0)
  );
}

/** Whole places, on which rules act after those of single numbers. */
const isPlacePath = (path: string): boolean => path === 'position' || path === 'aim';

function turnFrames(tracks: readonly Track[]): number[] {
  const frames = tracks
    .filter(({ path }) => path === 'turn' || path === 'tilt' || path === 'roll')
    .flatMap(({ keys }) => keys.map(({ frame }) => frame));
  return [...new Set(frames)].sort((a, b) => a - b);
}

/** The values of a thing that move by keys and by rules on single numbers; null when none does. */
function curvePoser(
  found: FoundThing,
  tracks: readonly Track[],
  linked: readonly LinkedEase[],
  rules: readonly RuleValues[],
  length: number,
): Mover | null {
  const copied: Copied[] = [];
  const places = new Map<string, number>([['', 0]]);
  const channels: Channel[] = [];
  /** The number of the copied object at a path, which it adds when it is new. */
  const nodeOf = (steps: readonly string[]): number => {
    const path = steps.join('.');
    const there = places.get(path);
    if (there !== undefined) return there;
    const name = steps.at(-1)!;
    const parentSteps = steps.slice(0, -1);
    const parent = nodeOf(parentSteps);
    copied.push({
      parent,
      name: ownName(parentSteps.length ? readProperty(found.thing, parentSteps.join('.')) : found.thing, name),
    });
    places.set(path, copied.length);
    return copied.length;
  };
  const paths = new Set([
    ...tracks.map(({ path }) => path),
    ...rules.map(({ rule }) => rule.path).filter((path) => path !== '' && !isPlacePath(path)),
  ]);
  const byPath = new Map(tracks.map((track) => [track.path, track]));
  for (const path of paths) {
    const property = propertyOf(found, path);
    const track = byPath.get(path);
    const own = path.startsWith(OWN);
    const resting = readProperty(found.thing, path);
    // What is the product's own rests in the product: without keys nothing is known of it here.
    if (!property || (own ? !track : resting === undefined)) continue;
    const keyed = track ? compileCurve(track, property, linked) : standstill(resting as PropertyValue);
    const acting = rules.filter(
      ({ rule }) => rule.path === path || (rule.path === '' && RULES[rule.kind].ground === 'thread'),
    );
    const curve = keyed && ruled(keyed, property, acting, length);
    if (!curve) continue;
    // Own values lie side by side under their paths.
    const steps = own ? ['own', path.slice(OWN.length)] : path.split('.');
    channels.push({ node: nodeOf(steps.slice(0, -1)), name: steps.at(-1)!, curve });
  }
  return channels.length > 0 ? new CurvePoser(found.thing, copied, channels) : null;
}

const standstill = (value: PropertyValue): Curve => ({ first: 0, last: 0, at: () => value });

/** A curve with what rules make of it, in their order. */
function ruled(curve: Curve, property: Property, rules: readonly RuleValues[], length: number): Curve {
  let result = curve;
  for (const values of rules) {
    const offset = property.type === 'number' || property.type === 'turn' ? offsetOf(values, length) : null;
    const before = result;
    if (!offset) result = retimed(before, values);
    else
      result = {
        first: before.first,
        last: before.last,
        at: (frame) => fitNumber(property as NumberProperty, (before.at(frame) as number) + offset(frame, 0)),
      };
  }
  return result;
}

/** The key of a step in its holder: items of lists are addressed by id, but lie at an index. */
function ownName(holder: unknown, step: string): string {
  if (!Array.isArray(holder) || /^\d+$/.test(step)) return step;
  return String((holder as Array<{ id?: string }>).findIndex((item) => item.id === step));
}

/** The set with everything that moves at its place at `frame`; what does not move is the same object as in the set. */
export function poseSet({ set, posers }: CompiledMoves, frame: number): SetDocument {
  if (posers.size === 0) return set;
  const pose = <T extends SetThing>(thing: T): T => (posers.get(thing.id) as Mover<T> | undefined)?.at(frame) ?? thing;
  const list = <L extends ThingList>(name: L): SetDocument[L] => {
    const things = set[name] as SetThing[];
    return (things.some((t) => posers.has(t.id)) ? things.map(pose) : things) as SetDocument[L];
  };
  return {
    ...set,
    products: list('products'),
    surfaces: list('surfaces'),
    lights: list('lights'),
    environment: pose(set.environment),
    cameras: list('cameras'),
    effects: list('effects'),
    nulls: list('nulls'),
  };
}
