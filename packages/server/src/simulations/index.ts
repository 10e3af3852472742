export { SimulationStore } from './store.ts';
export {
  CHUNK,
  chunkCount,
  chunksFor,
  effectRuns,
  frameCount,
  simulateChunk,
  simulatedFrom,
  trySimulation,
} from './simulate.ts';
export { kernelMaker } from './team.ts';
export { simulationRoutes } from './routes.ts';
