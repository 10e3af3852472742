export * from './server.ts';
export * from './config.ts';
export { addPerson } from './accounts/index.ts';
export { DocumentRepository } from './documents/index.ts';
export { developFrame, renderFrame, traceFrame } from './takes/render-frame.ts';
export { neighboursOf } from './takes/snapshot.ts';
export type { TakeSummary } from './takes/index.ts';
export type { DeliverySummary } from './promos/index.ts';
export type { AppContext } from './http/index.ts';
