export * from './types.ts';
export * from './defaults.ts';
export * from './tracks.ts';
export * from './commands.ts';
