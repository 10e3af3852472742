/**
 * Ray traversal in plain TypeScript, kept to be measured against: binary tree, one triangle at a time, one thread. Only
 * the benchmarks use it.
 */
export { Intersector } from './intersect.ts';
export { flatten, type Triangles } from './triangles.ts';
