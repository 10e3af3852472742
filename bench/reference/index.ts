/**
 * The plain TypeScript tracer of the first slice, kept to be measured against: binary tree, one triangle at a time, one
 * thread. It knows softboxes, sweeps and the finishes of that slice; nothing else uses it.
 */
export { packScene } from './pack.ts';
export type { PackedScene } from './layout.ts';
export { Intersector } from './intersect.ts';
export { castCameraRay } from './camera-ray.ts';
export { makeSampler } from './sampler.ts';
export { traceFrame } from './trace-frame.ts';
