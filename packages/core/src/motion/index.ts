export * from './sample-track.ts';
export * from './tableau.ts';
export * from './meter.ts';
export { placeLight } from './place-light.ts';
export * from './evaluate.ts';
export * from './recipes.ts';
