export * from './mesh.ts';
export * from './transform.ts';
export * from './bounds.ts';
export * from './build-turned.ts';
export * from './build-box.ts';
export * from './build-sweep.ts';
export * from './build-relief.ts';
export * from './fillet-profile.ts';
