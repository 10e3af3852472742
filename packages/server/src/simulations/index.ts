export { SimulationStore } from './store.ts';
export { CHUNK, chunkCount, chunksFor, simulateChunk, smokeFrom, smokeRuns } from './simulate.ts';
export { simulationRoutes } from './routes.ts';
