export * from './obj.ts';
export * from './ply.ts';
export * from './stl.ts';
export * from './read.ts';
export { polygonTriangles } from './polygon.ts';
