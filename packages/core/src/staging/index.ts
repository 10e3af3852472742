export * from './light-kits.ts';
export * from './repeat.ts';
