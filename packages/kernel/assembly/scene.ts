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

export const TILE: i32 = 16;

/** Planes of f32, each the size of the traced part. */
export const P_BEAUTY: i32 = 0;
/** Mean of every second sample: with the beauty it tells signal from noise. */
export const P_HALF: i32 = 1;
export const P_VARIANCE: i32 = 2;
export const P_ALPHA: i32 = 3;
export const P_ALBEDO: i32 = 4;
export const P_NORMAL: i32 = 5;
export const P_DEPTH: i32 = 6;
export const P_SAMPLES: i32 = 7;
export const P_DIRECT: i32 = 8;
export const P_INDIRECT: i32 = 9;
export const P_DIFFUSE: i32 = 10;
export const P_GLOSSY: i32 = 11;
export const P_TRANSMISSION: i32 = 12;
export const P_EMISSION: i32 = 13;
export const P_REFLECTION: i32 = 14;
export const P_OPEN: i32 = 15;
export const P_SHADED: i32 = 16;
export const P_MOTION: i32 = 17;
export const P_THING: i32 = 18;
export const P_THING_COVER: i32 = 19;
export const P_FINISH: i32 = 20;
export const P_FINISH_COVER: i32 = 21;
export const P_LIGHTS: i32 = 22;

/** Field offsets in floats; the same numbers as core's trace/layout.ts (a test compares them). */
export const MATERIAL_STRIDE: i32 = 56;
export const M_ALPHA: i32 = 3;
export const M_METALLIC: i32 = 4;
export const M_ROUGHNESS: i32 = 5;
export const M_IOR: i32 = 6;
export const M_SPECULAR: i32 = 7;
export const M_SPECULAR_COLOR: i32 = 8;
export const M_TRANSMISSION: i32 = 11;
export const M_VOLUME: i32 = 12;
export const M_ABSORPTION: i32 = 13;
export const M_CLEARCOAT: i32 = 16;
export const M_CLEARCOAT_ROUGHNESS: i32 = 17;
export const M_EMISSION: i32 = 18;
export const M_ALPHA_MODE: i32 = 21;
export const M_ALPHA_CUTOFF: i32 = 22;
export const M_PRIORITY: i32 = 23;
export const M_BASE_TEXTURE: i32 = 24;
export const M_ORM_TEXTURE: i32 = 25;
export const M_NORMAL_TEXTURE: i32 = 26;
export const M_EMISSIVE_TEXTURE: i32 = 27;
export const M_NORMAL_STRENGTH: i32 = 28;
export const M_TRANSMISSION_TEXTURE: i32 = 29;
export const M_CLEARCOAT_TEXTURE: i32 = 30;
export const M_SHEEN_COLOR: i32 = 31;
export const M_SHEEN_ROUGHNESS: i32 = 34;
export const M_IRIDESCENCE: i32 = 35;
export const M_IRIDESCENCE_IOR: i32 = 36;
export const M_IRIDESCENCE_THICKNESS: i32 = 37;
export const M_ANISOTROPY: i32 = 38;
export const M_ANISOTROPY_ROTATION: i32 = 39;
/** Mirror lobe on top with a strength, blur and reach of the artist's choosing; reach 0 is endless. */
export const M_MIRROR: i32 = 40;
export const M_MIRROR_BLUR: i32 = 41;
export const M_MIRROR_REACH: i32 = 42;
/** 1: the camera sees only the shadows and mirror images that fall on it. */
export const M_CATCHER: i32 = 43;
/** 1 when light may pass: glass, or alpha. */
export const M_PASSES: i32 = 44;
/** 1 when any texture is set. */
export const M_TEXTURED: i32 = 45;
export const M_FINISH: i32 = 46;
/** Which table a brushed finish looks up. */
export const M_BRUSHED: i32 = 47;

export const INSTANCE_STRIDE: i32 = 76;
/** i32 words. */
export const I_KIND: i32 = 0;
export const I_MESH: i32 = 1;
export const I_MASK: i32 = 2;
export const I_FLAGS: i32 = 3;
export const I_SLOTS: i32 = 4;
export const I_THING: i32 = 5;
/** i32 a triangle: its light, -1 for none; address 0 when no part glows. */
export const I_LIGHTS: i32 = 6;
/** f32 words: 3 x 4 matrices, rows. */
export const I_INVERSE: i32 = 8;
export const I_OPEN: i32 = 20;
export const I_CLOSE: i32 = 32;
export const I_BEFORE: i32 = 44;
/** The inverse again as four columns of four, for vectors. */
export const I_COLUMNS: i32 = 56;
export const KIND_MESH: i32 = 0;
export const KIND_LIGHT: i32 = 1;
export const FLAG_MOVING: i32 = 1;
export const FLAG_IDENTITY: i32 = 2;

/** Kinds of ray that a thing's mask answers to. */
export const RAY_CAMERA: i32 = 1;
export const RAY_REFLECTION: i32 = 2;
export const RAY_SHADOW: i32 = 4;
export const RAY_LIGHTING: i32 = 8;

export const LIGHT_STRIDE: i32 = 52;
export const L_KIND: i32 = 0;
export const L_PASS: i32 = 1;
export const L_CENTRE: i32 = 2;
export const L_U: i32 = 5;
export const L_V: i32 = 8;
export const L_NORMAL: i32 = 11;
/** cd/m2; for points and spots without size cd; for suns cd/m2 of the disc. */
export const L_RADIANCE: i32 = 14;
export const L_AREA: i32 = 17;
export const L_RADIUS: i32 = 18;
/** Tangent of the angle at which a honeycomb cuts off; 0: none. */
export const L_SPREAD: i32 = 19;
/** Cosines between which a cone fades; both -2 for none. */
export const L_CONE_INNER: i32 = 20;
export const L_CONE_OUTER: i32 = 21;
export const L_TEXTURE: i32 = 23;
export const L_GOBO: i32 = 24;
export const L_GOBO_DISTANCE: i32 = 25;
export const L_GOBO_WIDTH: i32 = 26;
export const L_GOBO_HEIGHT: i32 = 27;
/** Row of the link table, -1: touches everything. */
export const L_LINK: i32 = 28;
export const L_INSTANCE: i32 = 30;
export const L_TRIANGLE: i32 = 31;
/** Centre, u, v, normal when the shutter closes. */
export const L_CLOSE: i32 = 32;
export const L_MOVING: i32 = 44;
export const LIGHT_RECT: i32 = 0;
export const LIGHT_DISC: i32 = 1;
export const LIGHT_SPHERE: i32 = 2;
export const LIGHT_POINT: i32 = 3;
export const LIGHT_SUN: i32 = 4;
export const LIGHT_TRIANGLE: i32 = 5;

export const TEXTURE_STRIDE: i32 = 14;

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
  return scene.instances + (<usize>(i * INSTANCE_STRIDE) << 2);
}
