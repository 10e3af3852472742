export * from './kit.ts';
export { GlidingFilter } from './filter.ts';
