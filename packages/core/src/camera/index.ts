export * from './lens.ts';
export * from './moves.ts';
