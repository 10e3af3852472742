export * from './file-paths.ts';
export * from './frame-queue.ts';
export * from './frame-store.ts';
export * from './list-takes.ts';
export * from './render-node.ts';
export * from './routes.ts';
export * from './shot-of.ts';
