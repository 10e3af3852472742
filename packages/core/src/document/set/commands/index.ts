export * from './lights.ts';
export * from './products.ts';
export * from './room.ts';
export * from './surfaces.ts';
export * from './things.ts';
export * from './effects.ts';
