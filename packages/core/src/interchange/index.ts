export * from './model.ts';
export * from './read-model.ts';
export * from './import-model.ts';
export * from './write-model.ts';
export * from './exr.ts';
export * from './write-staged.ts';
export * from './hdr.ts';
