import type { LinkedEase, SetThing, Track } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import type { Curve } from './curve.ts';
import { isPlaced, type Placed } from './pose.ts';
import type { PlaceStep } from './rules/index.ts';

type Node = Record<string, unknown>;

/** Gives a thing at any frame. */
export interface Mover<T extends SetThing = SetThing> {
  /** The thing as it rests in the set. */
  readonly thing: T;
  /** The thing with every moving property at its value at `frame`. The same frame twice gives the same object. */
  at(frame: number): T;
  /**
   * The same in an object that is written over by the next call: for looking at, not for keeping. Objects in it other than
   * rows of numbers are new at every frame, so that they may be kept.
   */
  fleeting(frame: number): T;
}

/** What a mover was made from: as long as this stays, so does the mover. */
export interface MoverSource {
  readonly tracks: readonly Track[];
  readonly linked: readonly LinkedEase[];
}

/** One moving value of a thing: which of the thing's copied objects it stands in, under which name. */
export interface Channel {
  node: number;
  name: string;
  curve: Curve;
}

/** An object inside a thing that is copied before values are written into it. */
export interface Copied {
  parent: number;
  name: string;
}

/** A thing whose properties move by curves, made ready so that a frame copies only the objects that hold moving values. */
export class CurvePoser<T extends SetThing = SetThing> implements Mover<T> {
  private frame = NaN;
  private posed: T;
  private fleetingFrame = NaN;
  private readonly fleetingNodes: Node[];

  constructor(
    readonly thing: T,
    private readonly copied: readonly Copied[],
    private readonly channels: readonly Channel[],
  ) {
    this.posed = thing;
    this.fleetingNodes = this.copies();
  }

  at(frame: number): T {
    if (frame === this.frame) return this.posed;
    const nodes = this.copies();
    for (const { node, name, curve } of this.channels) nodes[node][name] = curve.at(frame);
    this.frame = frame;
    this.posed = nodes[0] as unknown as T;
    return this.posed;
  }

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

/** A thing with rules on its place: they act in order on what its curves give. */
export class RulePoser<T extends SetThing = SetThing> implements Mover<T> {
  private frame = NaN;
  private posed: T;

  constructor(
    private readonly base: Pick<Mover<T>, 'thing' | 'at'>,
    private readonly steps: readonly PlaceStep[],
  ) {
    this.posed = base.thing;
  }

  get thing(): T {
    return this.base.thing;
  }

  at(frame: number): T {
    if (frame !== this.frame) {
      this.posed = this.after(this.steps.length, frame) as unknown as T;
      this.frame = frame;
    }
    return this.posed;
  }

  fleeting(frame: number): T {
    return this.at(frame);
  }

  /** The thing at a frame as its first rules leave it. */
  private after(count: number, frame: number): Placed {
    const thing = this.base.at(frame);
    if (!isPlaced(thing)) return thing as unknown as Placed;
    const placed: Placed = { ...thing, position: [...thing.position] as Vec3 };
    if (thing.aim) placed.aim = [...thing.aim] as Vec3;
    for (let i = 0; i < count; i++) this.steps[i](placed, frame, (other) => this.after(i, other));
    return placed;
  }
}
