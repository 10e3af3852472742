export * from './light-kits.ts';
export * from './repeat.ts';
export * from './arrange.ts';
export * from './free-place.ts';
export * from './saved-kits.ts';
export * from './polar.ts';
export * from './plan.ts';
export * from './room-for.ts';
