export * from './repository.ts';
export * from './routes.ts';
export * from './campaign-routes.ts';
