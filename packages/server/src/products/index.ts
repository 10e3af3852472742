export * from './routes.ts';
export * from './import-product.ts';
