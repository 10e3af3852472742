import {
  propertyOf,
  thingIndex,
  type FoundThing,
  type LinkedEase,
  type SetDocument,
  type SetThing,
  type ShotDocument,
  type ThingList,
  type Track,
} from '../document/index.ts';
import { readProperty } from '../properties/index.ts';
import { compileCurve, type Curve } from './curve.ts';

type Node = Record<string, unknown>;

/** One moving value of a thing: which of the thing's copied objects it stands in, under which name. */
interface Channel {
  node: number;
  name: string;
  curve: Curve;
}

/** An object inside a thing that is copied before values are written into it. */
interface Copied {
  parent: number;
  name: string;
}

/** A thing whose properties move, made ready so that a frame copies only the objects that hold moving values. */
export class Poser<T extends SetThing = SetThing> {
  private frame = NaN;
  private posed: T;
  private fleetingFrame = NaN;
  private readonly fleetingNodes: Node[];

  constructor(
    readonly thing: T,
    readonly tracks: readonly Track[],
    readonly linked: readonly LinkedEase[],
    private readonly copied: readonly Copied[],
    private readonly channels: readonly Channel[],
  ) {
    this.posed = thing;
    this.fleetingNodes = this.copies();
  }

  /** The thing with every moving property at its value at `frame`. The same frame twice gives the same object. */
  at(frame: number): T {
    if (frame === this.frame) return this.posed;
    const nodes = this.copies();
    for (const { node, name, curve } of this.channels) nodes[node][name] = curve.at(frame);
    this.frame = frame;
    this.posed = nodes[0] as unknown as T;
    return this.posed;
  }

  /**
   * The same in an object that is written over by the next call: for looking at, not for keeping. Objects in it other than
   * rows of numbers are new at every frame, so that they may be kept.
   */
  fleeting(frame: number): T {
    const nodes = this.fleetingNodes;
    if (frame !== this.fleetingFrame) {
      for (let i = 0; i < this.copied.length; i++) {
        const { parent, name } = this.copied[i];
        if (!Array.isArray(nodes[i + 1])) nodes[parent][name] = nodes[i + 1] = { ...nodes[i + 1] };
      }
      for (const { node, name, curve } of this.channels) nodes[node][name] = curve.at(frame);
      this.fleetingFrame = frame;
    }
    return nodes[0] as unknown as T;
  }

  /** The thing, and copies of the objects in it that values are written into. */
  private copies(): Node[] {
    const nodes: Node[] = [{ ...this.thing } as unknown as Node];
    for (const { parent, name } of this.copied) {
      const original = nodes[parent][name];
      const copy = (Array.isArray(original) ? original.slice() : { ...(original as object) }) as Node;
      nodes[parent][name] = copy;
      nodes.push(copy);
    }
    return nodes;
  }
}

/** A set and a shot with all tracks resolved. Kept for as long as both documents stand. */
export interface CompiledMoves {
  readonly set: SetDocument;
  readonly shot: ShotDocument;
  /** By the id of the thing; things that do not move are not in it. */
  readonly posers: ReadonlyMap<string, Poser>;
}

const kept = new WeakMap<ShotDocument, WeakMap<SetDocument, CompiledMoves>>();
const posersOf = new WeakMap<SetThing, Poser>();

/**
 * Resolves the tracks of a shot against a set, once for each pair of documents; what did not change since an earlier pair is
 * taken over. Tracks whose thing is gone, whose property its kind does not have, or whose keys hold another type of value are
 * passed over: a shot outlives what was deleted from its set.
 */
export function compileMoves(set: SetDocument, shot: ShotDocument): CompiledMoves {
  const sets = kept.get(shot) ?? new WeakMap<SetDocument, CompiledMoves>();
  kept.set(shot, sets);
  const known = sets.get(set);
  if (known) return known;
  const byThing = new Map<string, Track[]>();
  for (const track of shot.tracks) {
    const tracks = byThing.get(track.thing);
    if (tracks) tracks.push(track);
    else byThing.set(track.thing, [track]);
  }
  const posers = new Map<string, Poser>();
  const things = thingIndex(set);
  for (const [id, tracks] of byThing) {
    const found = things.get(id);
    const poser = found && poserFor(found, tracks, shot.eases);
    if (poser) posers.set(id, poser);
  }
  const moves = { set, shot, posers };
  sets.set(set, moves);
  return moves;
}

function poserFor(found: FoundThing, tracks: readonly Track[], linked: readonly LinkedEase[]): Poser | null {
  const known = posersOf.get(found.thing);
  const same = known?.tracks.length === tracks.length && known.tracks.every((t, i) => t === tracks[i]);
  // Most shots share no ease, each by a list of its own.
  if (known && same && (known.linked === linked || known.linked.length + linked.length === 0)) return known;
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
  for (const track of tracks) {
    const property = propertyOf(found, track.path);
    const curve = property && compileCurve(track, property, linked);
    if (!curve || readProperty(found.thing, track.path) === undefined) continue;
    const steps = track.path.split('.');
    const holder = steps.slice(0, -1);
    const node = nodeOf(holder);
    channels.push({ node, name: steps.at(-1)!, curve });
  }
  const poser = channels.length > 0 ? new Poser(found.thing, tracks, linked, copied, channels) : null;
  if (poser) posersOf.set(found.thing, poser);
  return poser;
}

/** The key of a step in its holder: items of lists are addressed by id, but lie at an index. */
function ownName(holder: unknown, step: string): string {
  if (!Array.isArray(holder) || /^\d+$/.test(step)) return step;
  return String((holder as Array<{ id?: string }>).findIndex((item) => item.id === step));
}

/** The set with everything that moves at its place at `frame`; what does not move is the same object as in the set. */
export function poseSet({ set, posers }: CompiledMoves, frame: number): SetDocument {
  if (posers.size === 0) return set;
  const pose = <T extends SetThing>(thing: T): T => (posers.get(thing.id) as Poser<T> | undefined)?.at(frame) ?? thing;
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
  };
}
