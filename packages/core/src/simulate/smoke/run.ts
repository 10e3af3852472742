import type { EffectLevel, SmokeEffect } from '../../document/index.ts';
import { matterAt, posed, type EvaluateContext, type Matter, type ShotProgram, type Slot } from '../../scene/index.ts';
import { framesToSeconds, type FrameRate } from '../../time/index.ts';
import { solidsIn, type Solid } from '../bodies-in.ts';
import { fingerprint } from '../fingerprint.ts';
import { checkDomain, type SmokeDomain } from './domain.ts';
import { packSmoke, SMOKE_ENGINE, type SmokeFrame } from './frame.ts';
import { DistanceFields, obstaclesOf, wallsOf } from './obstacles.ts';
import { SmokeSolver, type SimulationKernel, type SmokeState } from './solver.ts';
import { sourceCells, sourcesOf } from './sources.ts';

/** All that a frame of smoke follows from, besides the frame before it. */
interface FrameInputs {
  effect: SmokeEffect;
  solids: readonly Solid[];
  key: string;
}

/** What of an effect does not change its smoke: its name and look, and how it is played. */
const UNSEEN: ReadonlySet<string> = new Set([
  ...['name', 'order', 'group', 'locked', 'visible', 'level', 'cells', 'playback'],
  ...['thickness', 'colour', 'albedo', 'anisotropy'],
]);

/** Frames between states that are kept for going on from. */
export const STATE_EVERY = 8;

/**
 * The smoke of an effect in a shot, frame by frame. Each frame has a key made from its settings, from what stands in its way
 * and from the key of the frame before: a change at a frame leaves the keys of earlier ones as they are.
 */
export class SmokeRun {
  readonly domain: SmokeDomain;
  /** Frame of the shot at which it begins. */
  readonly start: number;
  private readonly seconds: number;
  private readonly keys: string[] = [];
  private fields: DistanceFields | null = null;
  private walls = '';
  private solver: SmokeSolver | null = null;
  /** The number of the frame that the solver stands at. */
  private at = -1;

  /** @throws Problem `effect/too-fine` when the level has too many cells. */
  constructor(
    private readonly program: ShotProgram,
    private readonly slot: Slot<SmokeEffect>,
    private readonly context: EvaluateContext,
    readonly level: EffectLevel,
    rate: FrameRate,
  ) {
    this.start = Math.round(slot.thing.start);
    this.domain = checkDomain(slot.thing, level);
    this.seconds = framesToSeconds(1, rate);
  }

  /** Frames from the beginning to the end of the shot. */
  get frames(): number {
    return Math.max(1, this.program.shot.length - this.start);
  }

  /** The key of a frame, counted from the beginning. */
  key(frame: number): string {
    while (this.keys.length <= frame) {
      const n = this.keys.length;
      const before = n === 0 ? `smoke ${SMOKE_ENGINE} ${this.level} ${JSON.stringify(this.domain)}` : this.keys[n - 1];
      this.keys.push(fingerprint(`${before}|${n === 0 ? '' : this.inputs(n).key}`));
    }
    return this.keys[frame];
  }

  private matter(frame: number): Matter {
    return matterAt(this.program, this.start + frame, this.context);
  }

  private inputs(frame: number): FrameInputs {
    const effect = JSON.parse(JSON.stringify(posed(this.slot, this.start + frame))) as SmokeEffect;
    const now = this.matter(frame);
    const clinging = effect.emitters.some((e) => e.on && e.shape === 'thing');
    const reached =
      effect.collides || clinging ? this.within(solidsIn(now, this.matter(frame - 1), this.context.meshes)) : [];
    const settings = Object.entries(effect).filter(([name]) => !UNSEEN.has(name));
    const places = effect.emitters.map(({ thing }) => (thing ? this.placeIn(now, thing) : null));
    const key = fingerprint(JSON.stringify([settings, this.seconds, places, reached.map((s) => s.key)]));
    return { effect, solids: reached, key };
  }

  private placeIn({ instances, surfaces }: Matter, thing: string): [number, number, number] | undefined {
    const found = [...instances, ...surfaces].find(({ id }) => id === thing);
    return found && [found.matrix[12], found.matrix[13], found.matrix[14]];
  }

  /** Solids whose box reaches into the domain. */
  private within(solids: readonly Solid[]): Solid[] {
    const { origin, size, cell } = this.domain;
    return solids.filter(({ mesh, matrix: m }) => {
      const { positions } = mesh;
      const low = [Infinity, Infinity, Infinity];
      const high = [-Infinity, -Infinity, -Infinity];
      for (let i = 0; i < positions.length; i += 3)
        for (let a = 0; a < 3; a++) {
          const v = m[a] * positions[i] + m[a + 4] * positions[i + 1] + m[a + 8] * positions[i + 2] + m[a + 12];
          if (v < low[a]) low[a] = v;
          if (v > high[a]) high[a] = v;
        }
      return [0, 1, 2].every((a) => high[a] > origin[a] - cell && low[a] < origin[a] + (size[a] + 1) * cell);
    });
  }

  /** Takes a kernel to work with, and the state of a frame to go on from; nothing for the beginning. */
  begin(kernel: SimulationKernel, frame = 0, state?: SmokeState): void {
    this.solver = new SmokeSolver(kernel, this.domain, this.slot.thing.name);
    this.walls = '';
    this.at = state ? frame : 0;
    if (state) this.solver.restore(state);
    else this.solver.clear();
  }

  /** The frame that it stands at. */
  get frame(): number {
    return this.at;
  }

  /** Works out the next frame. */
  next(): void {
    const solver = this.solver!;
    const frame = this.at + 1;
    const { effect, solids } = this.inputs(frame);
    const fields = new DistanceFields(this.domain, solids);
    if (this.fields) fields.keep(this.fields);
    this.fields = fields;
    const blocking = effect.collides ? fields : new DistanceFields(this.domain, []);
    const now = this.matter(frame);
    const placeOf = (thing: string): [number, number, number] | undefined => this.placeIn(now, thing);
    const hollows = sourceCells(effect, this.domain, placeOf);
    const obstacles = obstaclesOf(this.domain, blocking, hollows);
    // What stands still needs to be walled in once.
    const walls = JSON.stringify([effect.walls, [...hollows], blocking.solids.map((s) => s.key)]);
    if (walls !== this.walls) solver.enclose(wallsOf(effect, this.domain, obstacles, solver.row, this.seconds));
    this.walls = walls;
    const sources = sourcesOf(effect, this.domain, obstacles, fields, placeOf, solver.row, frame);
    solver.advance(effect, sources, this.seconds, frame);
    this.at = frame;
  }

  /** The smoke of the frame that it stands at. */
  smoke(): SmokeFrame {
    return packSmoke(this.domain, this.solver!.density());
  }

  state(): SmokeState {
    return this.solver!.state();
  }

  /** Relative divergence that was left, and cycles of the pressure solve. */
  get left(): { divergence: number; cycles: number } {
    return this.solver!.left;
  }
}
