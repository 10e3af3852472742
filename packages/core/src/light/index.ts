export * from './colour-temperature.ts';
export * from './photometry.ts';
export * from './environment.ts';
