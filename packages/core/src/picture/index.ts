export * from './picture.ts';
export * from './view-transform.ts';
export * from './resample.ts';
export * from './blend.ts';
export * from './exposure-meter.ts';
export * from './scopes.ts';
