export * from './worker-pool.ts';
export * from './load-model.ts';
