import type { EffectLevel, SetEffect } from '../document/index.ts';
import type { EvaluateContext, ShotProgram, Simulated, Slot } from '../scene/index.ts';
import type { FrameRate } from '../time/index.ts';
import type { EffectFrame, EffectRun } from './effect-run.ts';
import { areParticles, particlesBetween, readParticles, writeParticles } from './particles/frame.ts';
import { ParticleRun } from './particles/run.ts';
import { densityBetween, readSmoke, writeSmoke } from './smoke/frame.ts';
import { SmokeRun } from './smoke/run.ts';

/** Kinds of effects, each with what simulates it. */
const RUNS = { smoke: SmokeRun, particles: ParticleRun } as const;

/**
 * What simulates an effect of a shot.
 * @throws Problem `effect/too-fine` or `effect/too-many` when it asks for more than can be done.
 */
export function runOf(
  program: ShotProgram,
  slot: Slot<SetEffect>,
  context: EvaluateContext,
  level: EffectLevel,
  rate: FrameRate,
): EffectRun<SetEffect> {
  const Run = RUNS[slot.thing.kind] as new (...all: unknown[]) => EffectRun<SetEffect>;
  return new Run(program, slot, context, level, rate);
}

/** A simulated frame as bytes, to be compressed and kept. */
export function writeFrame(frame: EffectFrame): Uint8Array {
  return frame.kind === 'smoke' ? writeSmoke(frame) : writeParticles(frame);
}

/** @throws Problem `effect/stored` for bytes that are no stored frame, or one of another version. */
export function readFrame(bytes: Uint8Array): EffectFrame {
  return areParticles(bytes) ? readParticles(bytes) : readSmoke(bytes);
}

/** What is seen between two frames of the same effect, `share` of the way from the first to the second. */
export function simulatedBetween(a: EffectFrame, b: EffectFrame, share: number, key?: string): Simulated {
  if (a.kind === 'particles') return { ...(b.kind === 'particles' ? particlesBetween(a, b, share) : a), key };
  const { kind, size, cell, origin } = a;
  return { kind, size, cell, origin, density: densityBetween(a, b.kind === 'smoke' ? b : a, share), key };
}
