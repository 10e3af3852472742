export * from './problems.ts';
export * from './session.ts';
export * from './security.ts';
