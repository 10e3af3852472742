export * from './build-product.ts';
export * from './built-document.ts';
export * from './new-builder.ts';
export * from './label-shell.ts';
export * from './shown-parts.ts';
export * from './trace-silhouette.ts';
export * from './prepare-model.ts';
