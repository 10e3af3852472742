export * from './preferences.ts';
export * from './session.ts';
export * from './documents.ts';
export * from './takes.ts';
export * from './simulations.ts';
export * from './deliveries.ts';
export * from './files.ts';
export * from './campaigns.ts';
