export * from './property.ts';
export * from './fit.ts';
export * from './address.ts';
