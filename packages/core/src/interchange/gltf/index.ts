export { parseGltf, type GeometryDecoders } from './parse.ts';
export { flatten, type FlatScene } from './flatten.ts';
export { animationsOf, pose, type FileAnimation } from './pose.ts';
export { nearestKelvin, type FileCamera, type FileLight } from './file-lights.ts';
