export * from './ease.ts';
export * from './curve.ts';
export * from './compile.ts';
export * from './recipes.ts';
