export * from './art.ts';
export * from './body.ts';
export type { ProductCommand } from './edit-product.ts';
export * from './finishes.ts';
export * from './variants.ts';
