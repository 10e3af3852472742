import { causesOf, type EffectLevel, type SmokeEffect } from '../../document/index.ts';
import { boundsOf, transformPoint, type Vec3 } from '../../geometry/index.ts';
import { hypot } from '../../maths/index.ts';
import type { EvaluateContext, ShotProgram, Slot } from '../../scene/index.ts';
import type { FrameRate } from '../../time/index.ts';
import type { Solid } from '../bodies-in.ts';
import { EffectRun, type FrameInputs, type SimulationHost } from '../effect-run.ts';
import { fingerprint } from '../fingerprint.ts';
import { checkDomain, type SmokeDomain } from './domain.ts';
import { Carried, waysOf } from './carried.ts';
import { packColours, packHeat, packSmoke, packWays, SMOKE_ENGINE, type SmokeFrame } from './frame.ts';
import type { GasVelocity } from './gas.ts';
import { DistanceFields, obstaclesOf, wallsOf } from './obstacles.ts';
import { FASTEST, readState, SmokeSolver, writeState } from './solver.ts';
import { isTinted, sourceBox, sourceCells, sourcesOf, type PlaceOf } from './sources.ts';
import {
  busyBox,
  inDomain,
  joined,
  placeOfWindow,
  walledBy,
  wholeWindow,
  windowFor,
  windowIn,
  type BusyBox,
  type SmokeWindow,
} from './window.ts';

/** Metres that a solid went in the last frame at most, by the corners of the box round it. */
function wayOf({ mesh, matrix, back, moves }: Solid): number {
  if (!moves) return 0;
  const { min, max } = boundsOf([mesh], matrix);
  let most = 0;
  for (let n = 0; n < 8; n++) {
    const corner = [0, 1, 2].map((a) => ((n >> a) & 1 ? max[a] : min[a])) as Vec3;
    const was = transformPoint(back, corner);
    most = Math.max(most, hypot(corner[0] - was[0], corner[1] - was[1], corner[2] - was[2]));
  }
  return most;
}

/** The smoke of an effect in a shot. */
export class SmokeRun extends EffectRun<SmokeEffect> {
  readonly domain: SmokeDomain;
  protected readonly kindKey: string;
  private fields: DistanceFields | null = null;
  private walls = '';
  private host: SimulationHost | null = null;
  private solver: SmokeSolver | null = null;
  private window: SmokeWindow | null = null;
  private readonly carried: Carried;
  /** Whether cells have colours: known for all frames, so that what goes on has room for them. */
  private readonly tinted: boolean;

  /** @throws Problem `effect/too-fine` when the level has too many cells. */
  constructor(
    program: ShotProgram,
    slot: Slot<SmokeEffect>,
    context: EvaluateContext,
    level: EffectLevel,
    rate: FrameRate,
  ) {
    super(program, slot, context, level, rate);
    this.domain = checkDomain(slot.thing, level);
    this.carried = new Carried(this.domain);
    this.tinted = isTinted(slot.thing, program.shot);
    this.kindKey = `smoke ${SMOKE_ENGINE} ${level} ${JSON.stringify(this.domain)}${this.tinted ? ' tinted' : ''}`;
  }

  protected inputs(frame: number): FrameInputs<SmokeEffect> {
    const effect = this.effectAt(frame);
    const now = this.matter(frame);
    const clinging = effect.emitters.some((e) => e.on && e.shape === 'thing');
    const reached = effect.collides || clinging ? this.within(this.solidsAt(frame)) : [];
    const settings = causesOf(effect);
    const places = effect.emitters.map(({ thing }) => (thing ? this.placeIn(now, thing) : null));
    const key = fingerprint(JSON.stringify([settings, this.seconds, places, reached.map((s) => s.key)]));
    return { effect, solids: reached, key };
  }

  /** Solids whose box reaches into the domain. */
  private within(solids: readonly Solid[]): Solid[] {
    const { origin, size, cell } = this.domain;
    return solids.filter(({ mesh, matrix }) => {
      const { min, max } = boundsOf([mesh], matrix);
      return [0, 1, 2].every((a) => max[a] > origin[a] - cell && min[a] < origin[a] + (size[a] + 1) * cell);
    });
  }

  protected open(host: SimulationHost, state?: Uint8Array): void {
    this.host = host;
    this.solver = null;
    this.window = null;
    this.walls = '';
    this.fields = null;
    this.carried.clear();
    if (!state) return;
    const window = windowIn(this.domain, state);
    this.stand(window).restore(readState(state, this.tinted, [...this.carried.fields, placeOfWindow(window)]));
  }

  /** The solver of the frame that it stands at; before the first one it has still air. */
  private get standing(): SmokeSolver {
    return this.solver ?? this.stand(wholeWindow(this.domain));
  }

  /** Works on a window from now on; what is there already goes on in it. */
  private stand(window: SmokeWindow): SmokeSolver {
    const solver = new SmokeSolver(this.host!.kernel(), window, this.slot.thing.name, this.tinted, window.offset);
    if (this.solver) solver.takeOver(this.solver);
    else solver.clear();
    this.solver = solver;
    this.window = window;
    this.walls = '';
    this.fields = null;
    return solver;
  }

  /** The window of the frame to come, by where there is smoke and where some is given off. */
  private windowOf(effect: SmokeEffect, solids: readonly Solid[], placeOf: PlaceOf): SmokeWindow {
    const { solver, domain } = this;
    // Whether somebody looked at the still air of the beginning makes no difference.
    const window = this.at > 0 ? this.window : null;
    const there = solver && window && busyBox(window, solver.cells('density'), solver.cells('heat'));
    const travel = this.travelOf(effect, solids, there);
    return windowFor(domain, joined(there, sourceBox(effect, domain, solids, placeOf)), travel, window);
  }

  /** Cells that smoke goes in the frame to come at most: as it goes now or is blown or pushed, and by what pulls at it meanwhile. */
  private travelOf(effect: SmokeEffect, solids: readonly Solid[], there: BusyBox | null): number {
    const { seconds } = this;
    const { cell } = this.domain;
    const { emitters, weight, lift, turbulence, wind } = effect;
    const given = (of: 'rate' | 'heat'): number => Math.max(0, ...emitters.filter((e) => e.on).map((e) => e[of]));
    const density = (there?.density ?? 0) + given('rate') * seconds;
    const heat = Math.max(there?.heat ?? 0, given('heat'));
    const pull = Math.abs(weight) * density + (Math.abs(lift) * heat) / 100 + turbulence;
    const blown = [...wind, ...emitters.flatMap(({ velocity }) => velocity)].map((v) => Math.abs(v) * seconds);
    const ways = Math.max(...blown, ...solids.map(wayOf)) / cell;
    const gone = Math.max((this.solver?.fastest() ?? 0) * seconds, ways);
    return Math.ceil(Math.min(FASTEST, gone + (pull * seconds * seconds) / cell));
  }

  next(): void {
    const frame = this.at + 1;
    const { effect, solids } = this.inputs(frame);
    const now = this.matter(frame);
    const placeOf = (thing: string): [number, number, number] | undefined => this.placeIn(now, thing);
    const window = this.windowOf(effect, solids, placeOf);
    const solver = window === this.window ? this.solver! : this.stand(window);
    const fields = new DistanceFields(window, solids);
    if (this.fields) fields.keep(this.fields);
    this.fields = fields;
    const blocking = effect.collides ? fields : new DistanceFields(window, []);
    const hollows = sourceCells(effect, window, placeOf);
    const obstacles = obstaclesOf(window, blocking, hollows);
    const walled = walledBy(effect, window);
    // What stands still needs to be walled in once.
    const walls = JSON.stringify([walled.walls, [...hollows], blocking.solids.map((s) => s.key)]);
    if (walls !== this.walls) solver.enclose(wallsOf(walled, window, obstacles, solver.row, this.seconds));
    this.walls = walls;
    const sources = sourcesOf(effect, window, obstacles, fields, placeOf, solver.row, frame);
    solver.advance(effect, sources, this.seconds, frame);
    this.carried.next(solver.gas(), this.seconds, frame);
    this.at = frame;
  }

  result(): SmokeFrame {
    const solver = this.standing;
    const cells = (name: Parameters<SmokeSolver['cells']>[0]): Float32Array =>
      inDomain(this.window!, solver.cells(name));
    const density = cells('density');
    const { size, ways } = waysOf(this.domain, solver.gas(), this.seconds);
    const [first, second] = this.carried.fields;
    const carried = new Float32Array(first.length * 2);
    carried.set(first);
    carried.set(second, first.length);
    const tints = (['red', 'green', 'blue'] as const).map((name) => (this.tinted ? cells(name) : density));
    return {
      ...packSmoke(this.domain, density),
      ...(this.tinted && { colours: packColours(density, tints) }),
      heat: packHeat(cells('heat')),
      motion: packWays(size, ways, new Int8Array(ways.length)),
      flow: {
        ...packWays(this.carried.size, carried, new Int16Array(carried.length)),
        share: Carried.share(Math.max(0, this.at)),
      },
    };
  }

  state(): Uint8Array {
    return writeState(this.standing.state(), [...this.carried.fields, placeOfWindow(this.window!)]);
  }

  /** How gas moves at the frame that it stands at. */
  gas(): GasVelocity {
    return this.standing.gas();
  }

  /** Relative divergence that was left, and cycles of the pressure solve. */
  get left(): { divergence: number; cycles: number } {
    return this.standing.left;
  }
}
