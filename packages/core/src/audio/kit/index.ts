export * from './kit.ts';
export { dampen, GlidingFilter } from './filter.ts';
