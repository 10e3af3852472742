export * from './sample-track.ts';
export * from './tableau.ts';
export * from './evaluate.ts';
export * from './recipes.ts';
