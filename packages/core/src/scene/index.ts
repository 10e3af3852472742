export * from './tableau.ts';
export * from './emitters.ts';
export * from './meter.ts';
export * from './program.ts';
export { cameraOf, evaluate, matterAt, posed, type EvaluateContext, type Matter } from './evaluate.ts';
export * from './effects.ts';
export * from './particles.ts';
export * from './evaluate-motion.ts';
export * from './screen-speed.ts';
export { screenBoxes, type Outline } from './screen-box.ts';
export { placeLight } from './place/light.ts';
export { partsKey } from './place/product.ts';
export {
  meshOfShape,
  placeSurface,
  surfaceMesh,
  surfaceTop,
  surfaceTraits,
  type SurfaceTraits,
} from './place/surface.ts';
export { lightPower, sketch, type Sketch, type SketchOptions } from './sketch.ts';
export { frameSpace, type FrameCamera, type FrameSpace } from './frame-space.ts';
export { nearestOnParts, worldOfPoint, type PointOnPart } from './point-on-part.ts';
