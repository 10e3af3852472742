import type { EffectLevel, SetEffect } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import { matterAt, posed, type EvaluateContext, type Matter, type ShotProgram, type Slot } from '../scene/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import { solidsIn, type Solid } from './bodies-in.ts';
import { fingerprint } from './fingerprint.ts';
import type { ParticleFrame } from './particles/frame.ts';
import type { SmokeFrame } from './smoke/frame.ts';
import type { SimulationKernel } from './smoke/solver.ts';

/** All that a simulated frame follows from, besides the frame before it. */
export interface FrameInputs<E extends SetEffect> {
  effect: E;
  solids: readonly Solid[];
  key: string;
}

/** Frames between states that are kept for going on from. */
export const STATE_EVERY = 8;

/** What a run works with: instances of the kernel, and states of frames that were kept, by their keys. */
export interface SimulationHost {
  kernel(): SimulationKernel;
  state(key: string): Uint8Array | undefined;
}

/** A simulated frame as it is kept and shown. */
export type EffectFrame = SmokeFrame | ParticleFrame;

/**
 * An effect of a shot, simulated frame by frame. Each frame has a key made from its settings, from what stands in its way and from
 * the key of the frame before: a change at a frame leaves the keys of earlier ones as they are.
 */
export abstract class EffectRun<E extends SetEffect> {
  /** Frame of the shot at which it begins. */
  readonly start: number;
  /** Seconds a frame. */
  protected readonly seconds: number;
  /** The number of the frame that it stands at. */
  protected at = -1;
  private readonly keys: string[] = [];

  protected constructor(
    protected readonly program: ShotProgram,
    protected readonly slot: Slot<E>,
    protected readonly context: EvaluateContext,
    readonly level: EffectLevel,
    rate: FrameRate,
  ) {
    this.start = Math.round(slot.thing.start);
    this.seconds = framesToSeconds(1, rate);
  }

  /** What all its frames follow from: kind, version, level. */
  protected abstract readonly kindKey: string;
  protected abstract inputs(frame: number): FrameInputs<E>;

  /** Frames from the beginning to the end of the shot. */
  get frames(): number {
    return Math.max(1, this.program.shot.length - this.start);
  }

  /** The frame that it stands at, counted from the beginning. */
  get frame(): number {
    return this.at;
  }

  /** The key of a frame, counted from the beginning. */
  key(frame: number): string {
    while (this.keys.length <= frame) {
      const n = this.keys.length;
      const before = n === 0 ? this.kindKey : this.keys[n - 1];
      this.keys.push(fingerprint(`${before}|${n === 0 ? '' : this.inputs(n).key}`));
    }
    return this.keys[frame];
  }

  /** Gets ready to go on from the latest frame, up to `before`, that has its state kept; from the beginning when none has. */
  begin(host: SimulationHost, before = 0): void {
    let state: Uint8Array | undefined;
    let from = Math.max(0, Math.min(before, this.frames - 1));
    for (; from > 0; from--) if ((state = host.state(this.key(from)))) break;
    this.at = from;
    this.open(host, state);
  }

  /** Takes what to work with, and the state of the frame that it stands at; none at the beginning. */
  protected abstract open(host: SimulationHost, state?: Uint8Array): void;
  /** Works out the next frame. */
  abstract next(): void;
  /** The frame that it stands at, to be shown. */
  abstract result(): EffectFrame;
  /** All that going on from the frame that it stands at takes. */
  abstract state(): Uint8Array;

  /** The effect as it is at a frame. */
  protected effectAt(frame: number): E {
    return JSON.parse(JSON.stringify(posed(this.slot, this.start + frame))) as E;
  }

  protected matter(frame: number): Matter {
    return matterAt(this.program, this.start + frame, this.context);
  }

  /** What stands in the way at a frame. */
  protected solidsAt(frame: number): Solid[] {
    return solidsIn(this.matter(frame), this.matter(frame - 1), this.context.meshes);
  }

  protected placeIn({ instances, surfaces }: Matter, thing: string): Vec3 | undefined {
    const found = [...instances, ...surfaces].find(({ id }) => id === thing);
    return found && [found.matrix[12], found.matrix[13], found.matrix[14]];
  }
}
