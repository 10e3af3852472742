/**
 * The packed scene: everything the tracer reads, in flat arrays that can be shared between threads or handed to a
 * WebAssembly kernel as they are. World space, metres, linear Rec.709, luminance in cd/m2.
 */
export interface PackedScene {
  /** 9 a triangle: first vertex, then the edges to the second and third. Ordered by BVH leaf. */
  triangles: Float32Array;
  /** 9 a triangle: vertex normals. */
  normals: Float32Array;
  /** 6 a triangle: vertex uvs. */
  uvs: Float32Array;
  /** 12 a triangle (linear RGBA a vertex), or empty when no part has vertex colours. */
  colors: Float32Array;
  /** Material and thing number of each triangle. */
  triangleMaterial: Uint16Array;
  triangleThing: Uint16Array;
  /** NODE_STRIDE a node, see NODE. Node 0 is the root. */
  nodes: Float32Array;
  /** MATERIAL.stride a material. */
  materials: Float32Array;
  /** TEXTURE.stride a texture: where its pixels are. */
  textures: Int32Array;
  /** RGBA bytes of all textures. */
  texels: Uint8Array;
  /** LIGHT.stride a light. */
  lights: Float32Array;
  /** Equirectangular panorama: 3 floats a pixel, already times intensity. */
  environment: Float32Array;
  environmentWidth: number;
  environmentHeight: number;
  /** Cumulative rows (height + 1), then cumulative columns of every row (height x (width + 1)). */
  environmentCdf: Float32Array;
  /** Radians added to the azimuth. */
  environmentRotation: number;
  /** CAMERA.size floats. */
  camera: Float32Array;
  seed: number;
}

/**
 * BVH node, 8 x 32 bit:
 * | 0..2 min (f32) | 3 first triangle or left child (i32) | 4..6 max (f32) | 7 triangle count, 0 for an inner node (i32) |
 * The right child follows the left one.
 */
export const NODE_STRIDE = 8;

export const MATERIAL = {
  stride: 40,
  baseColor: 0,
  alpha: 3,
  metallic: 4,
  roughness: 5,
  ior: 6,
  specular: 7,
  specularColor: 8,
  transmission: 11,
  /** 1 when the surface bounds a volume, 0 when it is a thin wall. */
  volume: 12,
  /** Absorption per metre, three channels (Beer-Lambert). */
  absorption: 13,
  clearcoat: 16,
  clearcoatRoughness: 17,
  emission: 18,
  /** 0 opaque, 1 mask, 2 blend. */
  alphaMode: 21,
  alphaCutoff: 22,
  /** Nested dielectrics: the medium with the higher number wins where two overlap. */
  priority: 23,
  /** Texture numbers, -1 for none; each is followed by nothing: transforms are baked into the texture table. */
  baseTexture: 24,
  ormTexture: 25,
  normalTexture: 26,
  emissiveTexture: 27,
  normalStrength: 28,
  transmissionTexture: 29,
} as const;

/** Texture entry: | 0 byte offset | 1 width | 2 height | 3 wrap u | 4 wrap v | 5 sRGB | 6..11 uv matrix (f32 bits) | */
export const TEXTURE = { stride: 12, wrapRepeat: 0, wrapMirror: 1, wrapClamp: 2 } as const;

/** Panel light: | 0..2 centre | 3..5 half side u | 6..8 half side v | 9..11 normal | 12..14 radiance | 15 area | 16 seen | 17 thing | */
export const LIGHT = { stride: 18, u: 3, v: 6, normal: 9, radiance: 12, area: 15, seen: 16, thing: 17 } as const;

/** | 0..11 right, up, back, position | 12 half height of the picture at distance 1 | 13 aspect | 14 aperture radius | 15 focus distance | */
export const CAMERA = {
  size: 16,
  right: 0,
  up: 3,
  back: 6,
  position: 9,
  tangent: 12,
  aspect: 13,
  aperture: 14,
  focus: 15,
} as const;
