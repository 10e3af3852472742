import type { EffectLevel, SetEffect } from '../document/index.ts';
import type { EvaluateContext, ShotProgram, Simulated, Slot } from '../scene/index.ts';
import type { FrameRate } from '../time/index.ts';
import type { EffectFrame, EffectRun } from './effect-run.ts';
import { areParticles, particlesBetween, readParticles, writeParticles } from './particles/frame.ts';
import { ParticleRun } from './particles/run.ts';
import { between, densityBetween, readSmoke, writeSmoke, type SmokeFrame } from './smoke/frame.ts';
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
  return smokeBetween(a, b.kind === 'smoke' ? b : a, share, key);
}

function smokeBetween(a: SmokeFrame, b: SmokeFrame, share: number, key?: string): Simulated {
  const { kind, size, cell, origin, colours, heat, motion, flow } = a;
  const out: Simulated = { kind, size, cell, origin, colours, density: densityBetween(a, b, share), key };
  if (heat && b.heat) out.heat = between(heat.values, heat.most / 255, b.heat.values, b.heat.most / 255, share);
  if (motion && b.motion) {
    const ways = between(motion.values, motion.most / 127, b.motion.values, b.motion.most / 127, share);
    out.motion = { size: motion.size, ways };
  }
  if (flow && b.flow) {
    // A pattern that begins anew between the two counts next to nothing there.
    const carried = between(flow.values, flow.most / 32767, b.flow.values, b.flow.most / 32767, share);
    const half = carried.length / 2;
    const counts = flow.share + (b.flow.share - flow.share) * share;
    out.flow = { size: flow.size, carried: [carried.subarray(0, half), carried.subarray(half)], share: counts };
  }
  return out;
}
