export * from './types.ts';
export * from './builders/index.ts';
export * from './defaults.ts';
export * from './commands/index.ts';
