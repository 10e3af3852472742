export * from './lens.ts';
