export * from './layout';
/**
 * Where the packed scene lies in memory. The host writes this header word by word; core's trace/layout.ts lists the same
 * fields in the same order (a test compares them). All pointers are byte addresses, arrays are f32 unless noted.
 */
@unmanaged
export class Scene {
  /** Top level: wide nodes over instances, see traverse.ts; one over things, one over lights' shapes, which follow them. */
  nodes: usize;
  lightNodes: usize;
  instances: usize;
  instanceCount: i32;
  solidCount: i32;
  materials: usize;
  /** i32, TEXTURE_STRIDE each. */
  textures: usize;
  /** u8. */
  texels: usize;
  /** 256 decoded sRGB values. */
  srgb: usize;
  lights: usize;
  lightCount: i32;
  /** Light tree, see light-tree.ts; the suns are the first lights and stand outside it. */
  tree: usize;
  treeNodes: i32;
  sunCount: i32;
  /** Which node path leads to each light: u32 a light. */
  trails: usize;
  /** u8 a thing, one row a light that is linked. */
  links: usize;
  thingCount: i32;
  environment: usize;
  /** (f32 threshold, i32 alias) a cell, then one f32: the sum of weights. */
  environmentAlias: usize;
  environmentWidth: i32;
  environmentHeight: i32;
  environmentSum: f32;
  environmentCos: f32;
  environmentSin: f32;
  environmentSeen: i32;
  camera: usize;
  volumes: usize;
  volumeCount: i32;
  /** Directional albedo, see albedo.ts. */
  tables: usize;
  /** u32 addresses of tables of brushed finishes. */
  brushed: usize;
  /** Pairs of f32, see sampler.ts. */
  blueNoise: usize;
  /** f32 places of samples in a pixel: core's pixel-filter.ts. */
  pixelFilter: usize;
  maxDepth: i32;
  maxBounces: i32;
  clamp: f32;
  exposureScale: f32;
  /** Number of light passes: document lights, then the room, then glowing finishes. */
  lightPasses: i32;
  /** 1 when anything moves while the shutter is open. */
  moving: i32;
}

/** What is traced: one picture or a part of it, in tiles that threads take from a common counter. */
@unmanaged
export class Job {
  /** Number of the next tile to take, and 1 when the work is given up. */
  counter: i32;
  cancelled: i32;
  width: i32;
  height: i32;
  /** The part that is traced; planes have its size. */
  x0: i32;
  y0: i32;
  x1: i32;
  y1: i32;
  /** Number of the first sample, samples every pixel gets, the most it may get. */
  first: i32;
  samples: i32;
  most: i32;
  /** Samples of the first surface that a pixel has where surfaces are uneven, those of its paths among them. */
  features: i32;
  /** Relative error a tile is let go at; 0 gives every pixel `samples`. */
  target: f32;
  seed: u32;
  /** Sample points, see sampler.ts: made for `most` samples. */
  points: usize;
  /** 1 when the passes beyond the first six are kept. */
  detail: i32;
  /** Address of each plane, PLANE order; 0 leaves it out. */
  planes: usize;
}

export const KIND_MESH: i32 = 0;
export const KIND_LIGHT: i32 = 1;

export const SHADING_BYTES: usize = 64;

/** Mesh header: addresses of its arrays (see build.ts), i32. */
@unmanaged
export class Mesh {
  nodes: usize;
  packets: usize;
  /** 9 a triangle: first vertex, edges to the second and third. */
  triangles: usize;
  /** SHADING_BYTES a triangle, one line of the cache: 9 normals, 6 uvs, f32, then its slot, u32. */
  shading: usize;
  /** 12 a triangle, or address 0. */
  colors: usize;
  /** u16 a triangle, again: shadow rays ask for nothing else. */
  slots: usize;
  count: i32;
  /** Box of all triangles, f32. */
  minX: f32;
  minY: f32;
  minZ: f32;
  maxX: f32;
  maxY: f32;
  maxZ: f32;
  /**
   * Of a mesh that deforms while the shutter is open: bytes from a packet to the same triangles as the shutter closes, and
   * those triangles and their normals (9 f32 each) as listed; all 0 of one that does not.
   */
  closing: usize;
  closeTriangles: usize;
  closeNormals: usize;
  /** Triangles one frame before, as listed; address 0 where they are the same. */
  before: usize;
}

/** Float `index` of the array at `pointer`. */
// @ts-ignore: decorator
@inline
export function at(pointer: usize, index: i32): f64 {
  return <f64>load<f32>(pointer + ((<usize>index) << 2));
}

/** Integer `index` of the array at `pointer`. */
// @ts-ignore: decorator
@inline
export function word(pointer: usize, index: i32): i32 {
  return load<i32>(pointer + ((<usize>index) << 2));
}

/** Value `field` of material `m`. */
// @ts-ignore: decorator
@inline
export function material(scene: Scene, m: i32, field: i32): f64 {
  return at(scene.materials, m * MATERIAL_STRIDE + field);
}

/** Address of instance `i`. */
// @ts-ignore: decorator
@inline
export function instance(scene: Scene, i: i32): usize {
  return scene.instances + ((<usize>(i * INSTANCE_STRIDE)) << 2);
}
