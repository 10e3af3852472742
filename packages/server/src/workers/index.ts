export * from './run-worker.ts';
export * from './load-model.ts';
