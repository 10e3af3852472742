/**
 * Where the packed scene lies in memory. The host writes this header; core's trace/kernel-scene.ts has the same table.
 * All pointers are byte addresses. f32 arrays unless noted.
 */
@unmanaged
export class Scene {
  /** Wide nodes, see traverse.ts. */
  nodes: usize;
  /** Triangle packets, see traverse.ts. */
  packets: usize;
  /** 9 a triangle: vertex and two edges; normals 9; uvs 6; colours 12 or address 0. */
  triangles: usize;
  normals: usize;
  uvs: usize;
  colors: usize;
  /** u16 a triangle. */
  triangleMaterial: usize;
  /** u8 a triangle: 1 when light may pass. */
  passes: usize;
  materials: usize;
  /** i32, TEXTURE.stride each. */
  textures: usize;
  /** u8. */
  texels: usize;
  /** 256 decoded sRGB values. */
  srgb: usize;
  lights: usize;
  lightCount: i32;
  environment: usize;
  environmentCdf: usize;
  environmentWidth: i32;
  environmentHeight: i32;
  camera: usize;
  triangleCount: i32;
  maxDepth: i32;
  maxBounces: i32;
  environmentCos: f64;
  environmentSin: f64;
  clamp: f64;
  exposureScale: f64;
}

/** Field offsets in floats; the same numbers as core's trace/layout.ts (a test compares them). */
export const MATERIAL_STRIDE: i32 = 40;
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

export const LIGHT_STRIDE: i32 = 18;
export const TEXTURE_STRIDE: i32 = 12;

/** Float `index` of the array at `pointer`. */
// @ts-ignore: decorator
@inline
export function at(pointer: usize, index: i32): f64 {
  return <f64>load<f32>(pointer + ((<usize>index) << 2));
}

/** Value `field` of material `m`. */
// @ts-ignore: decorator
@inline
export function material(scene: Scene, m: i32, field: i32): f64 {
  return at(scene.materials, m * MATERIAL_STRIDE + field);
}
