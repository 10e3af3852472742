export * from './problems.ts';
export * from './context.ts';
export * from './security.ts';
