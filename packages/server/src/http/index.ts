export * from './problems.ts';
export * from './session.ts';
export * from './security.ts';
export * from './send-stored.ts';
export * from './sound-body.ts';
