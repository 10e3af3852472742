export { addDistance, addMovedDistance, FAR } from './distance.ts';
export { fieldOf, type CellField } from './fields.ts';
export { solidsIn, type Solid } from './bodies-in.ts';
export { fingerprint } from './fingerprint.ts';
export { checkDomain, costOf, domainOf, MOST_CELLS, type DomainCost, type SmokeDomain } from './smoke/domain.ts';
export {
  densityBetween,
  packSmoke,
  readSmoke,
  SMOKE_ENGINE,
  smokeArrays,
  writeSmoke,
  type SmokeFrame,
} from './smoke/frame.ts';
export { DistanceFields, obstaclesOf, wallsOf, type Obstacles, type Walls } from './smoke/obstacles.ts';
export { emitterMask } from './smoke/mask.ts';
export { sourcesOf } from './smoke/sources.ts';
export {
  SmokeSolver,
  SOLVE,
  type SimulationExports,
  type SimulationKernel,
  type SmokeState,
  type SolveLimits,
} from './smoke/solver.ts';
export { randomTile } from './smoke/turbulence.ts';
export { SmokeRun } from './smoke/run.ts';
export { windowFor, type CellBox, type SmokeWindow } from './smoke/window.ts';
export { EffectRun, STATE_EVERY, type EffectFrame, type SimulationHost } from './effect-run.ts';
export { effectBox, effectCost, type EffectCost } from './extent.ts';
export { readFrame, runOf, simulatedBetween, writeFrame } from './frames.ts';
export { MOST_PARTICLES, ParticleRun, particlesOf } from './particles/run.ts';
export { PARTICLE_ENGINE, particlesBetween, type ParticleFrame } from './particles/frame.ts';
export { lightSmoke, type LitSmoke } from './smoke/light.ts';
export {
  BODY_WAYS,
  type Body,
  type BodyEngine,
  type BodyHinge,
  type BodyMotion,
  type BodyPart,
  type BodyPose,
  type BodySettings,
  type BodyWay,
} from './bodies/body.ts';
export { runBodies } from './bodies/run-bodies.ts';
export { bodyTracks, hingeTracks, type SwungHinge } from './bodies/to-keys.ts';
export { bodiesOf, HINGE_SIDES, hingeAt, type HingeSide } from './bodies/bodies-of.ts';
export { shatter, type Shattered, type ShatterSettings } from './bodies/shatter.ts';
export { STRIKES, type Strike, type StrikeWay } from './bodies/strike.ts';
