export * from './curve.ts';
export * from './compile.ts';
export * from './recipes.ts';
