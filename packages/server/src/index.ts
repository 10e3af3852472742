export * from './server.ts';
export * from './config.ts';
export { addPerson, Presence } from './accounts/index.ts';
export { DocumentRepository } from './documents/index.ts';
export { developFrame, renderFrame, simulateEffect, traceFrame } from './takes/render-frame.ts';
export { readRaw } from './takes/raw-passes.ts';
export { neighboursOf } from './takes/snapshot.ts';
export type { AppContext } from './context.ts';
export { chunkCount, kernelMaker, SimulationStore } from './simulations/index.ts';
