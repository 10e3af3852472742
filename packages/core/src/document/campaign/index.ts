export * from './types.ts';
export * from './defaults.ts';
export * from './commands.ts';
