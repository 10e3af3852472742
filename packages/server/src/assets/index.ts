export * from './store.ts';
export * from './content-type.ts';
export * from './routes.ts';
