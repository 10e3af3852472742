export * from './film-node.ts';
export * from './frame-list.ts';
export * from './routes.ts';
