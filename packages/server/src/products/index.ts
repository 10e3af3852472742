export * from './import-node.ts';
export * from './routes.ts';
