export * from './dispatcher.ts';
export * from './take-files.ts';
export * from './list-takes.ts';
export * from './routes.ts';
export * from './shot-of.ts';
