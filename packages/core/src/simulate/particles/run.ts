import { causesOf, type EffectLevel, type ParticlesEffect, type SmokeEffect } from '../../document/index.ts';
import { Problem } from '../../problem/index.ts';
import { PARTICLE, type EvaluateContext, type ShotProgram, type Slot } from '../../scene/index.ts';
import type { FrameRate } from '../../time/index.ts';
import { EffectRun, type FrameInputs, type SimulationHost } from '../effect-run.ts';
import { fingerprint } from '../fingerprint.ts';
import { SolidProbe } from '../probe.ts';
import { SmokeRun } from '../smoke/run.ts';
import { Air } from './air.ts';
import { bear, birthsIn, sourceOf } from './births.ts';
import { Contacts } from './contacts.ts';
import { noParticles, PARTICLE_ENGINE, readParticles, writeParticles, type ParticleFrame } from './frame.ts';
import { ParticleMover, touchOf } from './move.ts';

/** Particles that are alive at once, at most. */
export const MOST_PARTICLES = 200_000;
const STRIDE = PARTICLE.stride;

/** How many particles of an effect are alive at once when it has gone on for long, and bytes of a frame with so many. */
export function particlesOf({ rate, life, burst, burstEvery }: ParticlesEffect, seconds: number): ParticleCost {
  const bursts = burstEvery > 0 ? Math.max(1, life / (burstEvery * seconds)) : 1;
  const count = Math.ceil(rate * life + burst * bursts);
  return { count, frameBytes: count * (STRIDE + 1) * 4 };
}

export interface ParticleCost {
  count: number;
  frameBytes: number;
}

/** The particles of an effect in a shot. */
export class ParticleRun extends EffectRun<ParticlesEffect> {
  protected readonly kindKey: string;
  private readonly cell: number;
  private particles: ParticleFrame;
  /** The smoke that carries them. */
  private readonly carrier: SmokeRun | null;
  private probes = new Map<string, SolidProbe>();

  /** @throws Problem `effect/too-many` when more particles would be alive than can be. */
  constructor(
    program: ShotProgram,
    slot: Slot<ParticlesEffect>,
    context: EvaluateContext,
    level: EffectLevel,
    rate: FrameRate,
  ) {
    super(program, slot, context, level, rate);
    this.cell = slot.thing.cells[level];
    this.kindKey = `particles ${PARTICLE_ENGINE} ${this.cell}`;
    this.particles = noParticles(this.seconds);
    this.checkCount(particlesOf(slot.thing, this.seconds).count);
    const carrier = program.effects.find(({ thing }) => thing.id === slot.thing.follows && thing.kind === 'smoke');
    this.carrier = carrier ? new SmokeRun(program, carrier as Slot<SmokeEffect>, context, level, rate) : null;
  }

  private checkCount(count: number): void {
    if (count <= MOST_PARTICLES) return;
    const { name } = this.slot.thing;
    const many = count < 1e6 ? `${Math.round(count / 1000)} thousand` : `${(count / 1e6).toFixed(1)} million`;
    throw new Problem(
      'effect/too-many',
      `"${name}" would have ${many} particles at once; ${MOST_PARTICLES / 1000} thousand is the most. ` +
        'Lower its rate or its burst, or shorten their life.',
      name,
    );
  }

  protected inputs(frame: number): FrameInputs<ParticlesEffect> {
    const effect = this.effectAt(frame);
    const { collides, source, thing } = effect;
    const needed = collides || source === 'thing' ? this.solidsAt(frame) : [];
    const solids = collides ? needed : needed.filter((s) => s.thing === thing);
    const settings = causesOf(effect);
    const place = thing ? this.placeIn(this.matter(frame), thing) : null;
    const gas = this.carrier && this.gasFrame(frame) > 0 ? this.carrier.key(this.gasFrame(frame)) : '';
    const key = fingerprint(JSON.stringify([settings, this.seconds, place, solids.map((s) => s.key), gas]));
    return { effect, solids, key };
  }

  /** The frame of the smoke that carries them at one of theirs. */
  private gasFrame(frame: number): number {
    return this.carrier ? Math.min(this.start + frame - this.carrier.start, this.carrier.frames - 1) : 0;
  }

  protected open(host: SimulationHost, state?: Uint8Array): void {
    this.particles = state ? readParticles(state) : noParticles(this.seconds);
    this.carrier?.begin(host, Math.max(0, this.gasFrame(this.at)));
  }

  next(): void {
    const frame = this.at + 1;
    const { effect, solids } = this.inputs(frame);
    const { carrier } = this;
    const gasFrame = this.gasFrame(frame);
    while (carrier && carrier.frame < gasFrame) carrier.next();
    const gas = carrier && gasFrame > 0 ? carrier.gas() : null;
    const radius = touchOf(effect, effect.size * (1 + effect.sizeSpread));
    const probes = effect.collides ? this.probesFor(solids, radius) : [];
    const contacts = new Contacts(effect, probes, this.cell, this.seconds);
    const mover = new ParticleMover(effect, new Air(effect, frame * this.seconds, gas), contacts, this.seconds);
    const base = effect.thing
      ? this.placeIn(this.matter(frame), effect.thing)
      : ([0, 0, 0] as [number, number, number]);
    const source = sourceOf(
      effect,
      base,
      solids.filter((s) => s.thing === effect.thing),
    );
    const { burst, ages, due } = birthsIn(effect, frame, this.seconds, this.particles.due);
    const before = this.particles;
    this.checkCount(before.count + burst + ages.length);
    const born = burst + ages.length;
    // A copy is quicker than room that is filled twice.
    const data = born === 0 ? before.data.slice() : new Float32Array((before.count + born) * STRIDE);
    if (born > 0) data.set(before.data);
    const numbers = new Uint32Array(before.count + born);
    const { seconds } = this;
    let count = 0;
    for (let i = 0; i < before.count; i++) {
      const at = count * STRIDE;
      // They move up where others have died.
      if (count < i) data.copyWithin(at, i * STRIDE, (i + 1) * STRIDE);
      const number = before.numbers[i];
      mover.move(data, at, number, seconds);
      if (data[at + PARTICLE.age] < data[at + PARTICLE.life]) numbers[count++] = number;
    }
    for (let i = 0; i < born; i++) {
      const number = before.born + i;
      const at = count * STRIDE;
      if (!bear(effect, number, source, data, at)) continue;
      // Nothing is born in matter.
      if (effect.collides && contacts.inside(data[at], data[at + 1], data[at + 2])) continue;
      mover.move(data, at, number, i < burst ? seconds : ages[i - burst]);
      if (data[at + PARTICLE.age] < data[at + PARTICLE.life]) numbers[count++] = number;
    }
    this.particles = {
      ...{ kind: 'particles', count, due, seconds },
      data: count === numbers.length ? data : data.slice(0, count * STRIDE),
      numbers: count === numbers.length ? numbers : numbers.slice(0, count),
      born: before.born + born,
    };
    this.at = frame;
  }

  /** Solids to measure against; those that stand where they stood are kept. */
  private probesFor(solids: FrameInputs<ParticlesEffect>['solids'], radius: number): SolidProbe[] {
    // Large ones do not feel what is fine.
    const cell = Math.max(this.cell, radius / 2);
    const reach = Math.max(cell * 1.6, radius * 1.3);
    const known = (key: string): string => `${key} ${cell} ${reach}`;
    const probes = solids.map((s) => this.probes.get(known(s.key)) ?? new SolidProbe(s, cell, reach));
    this.probes = new Map(solids.map(({ key }, i) => [known(key), probes[i]]));
    return probes;
  }

  result(): ParticleFrame {
    return this.particles;
  }

  state(): Uint8Array {
    return writeParticles(this.particles);
  }
}
