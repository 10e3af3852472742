export * from './types.ts';
export * from './builders.ts';
export * from './product-defaults.ts';
export * from './validate.ts';
export * from './defaults.ts';
export * from './edit.ts';
export * from './migrate.ts';
export * from './tracks.ts';
