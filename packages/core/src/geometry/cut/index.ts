export { breakMeshes, seedsOn, type BrokenPiece } from './voronoi.ts';
