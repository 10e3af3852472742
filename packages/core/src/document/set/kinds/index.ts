export * from './block.ts';
export * from './camera.ts';
export * from './card.ts';
export * from './environment.ts';
export * from './light.ts';
export * from './lights/index.ts';
export * from './product.ts';
export type { SurfaceLook } from './surface.ts';
export * from './sweep.ts';
