export { addDistance, addMovedDistance, FAR } from './distance.ts';
export { fieldOf, type CellField } from './fields.ts';
export { solidsIn, type Solid } from './bodies-in.ts';
export { fingerprint } from './fingerprint.ts';
export { checkDomain, costOf, domainOf, MOST_CELLS, type DomainCost, type SmokeDomain } from './smoke/domain.ts';
export { densityBetween, packSmoke, readSmoke, SMOKE_ENGINE, writeSmoke, type SmokeFrame } from './smoke/frame.ts';
export { DistanceFields, obstaclesOf, wallsOf, type Obstacles, type Walls } from './smoke/obstacles.ts';
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
export { SmokeRun, STATE_EVERY } from './smoke/run.ts';
export { lightSmoke, type LitSmoke } from './smoke/light.ts';
export {
  dropBodies,
  type Body,
  type BodyEngine,
  type BodyPart,
  type BodyPose,
  type DropSettings,
  type Dropped,
} from './bodies/drop.ts';
export { dropTracks } from './bodies/to-keys.ts';
export { bodiesOf } from './bodies/bodies-of.ts';
