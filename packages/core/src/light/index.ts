export * from './colour-temperature.ts';
export * from './photometry.ts';
export * from './environment.ts';
export * from './patterns.ts';
export * from './highlight.ts';
export * from './rooms.ts';
export * from './prefilter.ts';
