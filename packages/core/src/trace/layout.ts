/**
 * The packed scene: everything the tracer reads, in flat arrays that go into the kernel's memory as they are. Metres,
 * linear Rec.709, luminance in cd/m2. The kernel's constants are made from the
 * tables below (scripts/kernel-layout.ts).
 */
export interface PackedScene {
  /** Each mesh once, in its own space; the same object from frame to frame is kept in the kernel's memory. */
  meshes: PackedMesh[];
  /** Things first, then lights' shapes. */
  instances: PackedInstance[];
  /** MATERIAL.stride a material. */
  materials: Float32Array;
  /** TEXTURE.stride a texture: where its pixels are. */
  textures: Int32Array;
  /** RGBA bytes of all textures with their smaller levels. */
  texels: Uint8Array;
  /** LIGHT.stride a light; suns first. */
  lights: Float32Array;
  sunCount: number;
  tree: LightTree;
  /** One row of bytes a thing for each light that is linked. */
  links: Uint8Array;
  room: PackedRoom;
  camera: Float32Array;
  volumes: PackedVolume[];
  /** Names by number: things and finishes of the id passes, lights of the light passes. */
  things: string[];
  finishes: string[];
  lightPasses: string[];
  /** Whether anything moves while the shutter is open. */
  moving: boolean;
  /** Strengths of brushed finishes, by the number their materials have: each needs a table of its own. */
  brushed: number[];
  seed: number;
}

/** Triangles with what is interpolated over them. */
export interface PackedMesh {
  count: number;
  /** 9 a triangle: first vertex, then the edges to the second and third. */
  triangles: Float32Array;
  /** 9, 6 and (or none) 12 a triangle: vertex normals, uvs, linear RGBA. */
  normals: Float32Array;
  uvs: Float32Array;
  colors: Float32Array;
  /** Which of its instance's slots each triangle takes its material from. */
  slots: Uint16Array;
  /** How a mesh that deforms lies as the shutter closes, and one frame before: the same triangles, each its own. */
  close?: { triangles: Float32Array; normals: Float32Array };
  before?: Float32Array;
}

/** Twelve numbers: three rows of four. */
export type Rows = readonly number[] | Float32Array;

export interface PackedInstance {
  /** Index into meshes, or of the light that this is the shape of. */
  kind: 'mesh' | 'light';
  index: number;
  mask: number;
  thing: number;
  /** Material numbers by slot. */
  slots: Uint16Array;
  /** Rows of the 3 x 4 matrices to the world: as the shutter opens, closes, and one frame before. */
  open: Rows;
  close: Rows | null;
  before: Rows;
  /** Light number of each triangle, -1 for none; null when nothing glows. */
  lights: Int32Array | null;
}

/**
 * A node of the light tree: rows of four children (spheres of light: centre, squared radius; what goes out and where to),
 * then (i32) each child's node, or -1 - light.
 */
export const LIGHT_NODE = {
  centre: 0,
  radius2: 12,
  power: 16,
  axis: 20,
  cosNormals: 32,
  sinNormals: 36,
  cosReach: 40,
  child: 44,
  stride: 48,
};

export interface LightTree {
  /** LIGHT_NODE words a node. */
  nodes: Float32Array;
  /** Path from the root to each light, two bits a level. */
  trails: Uint32Array;
}

/** Equirectangular panorama, 4 floats a cell: light times intensity, and weight in sampling. */
export interface PackedRoom {
  width: number;
  height: number;
  cells: Float32Array;
  /** (f32 threshold, i32 alias) a cell. */
  alias: Float32Array;
  sum: number;
  /** Radians added to the azimuth. */
  rotation: number;
  seen: boolean;
}

export interface PackedVolume {
  /** The 16 floats before the grid of a kernel entry, phase last but one. */
  header: Float32Array;
  size: [number, number, number];
  density: Float32Array;
  /** Cells of the coarse grid, and the most and the least that there is in each. */
  coarseSize: [number, number, number];
  bounds: Float32Array;
  /** Each cell's own colour; empty: that of all. */
  colours: Uint32Array;
  /** Ways that density goes while the shutter is open, in unit cubes; empty: it stands still. */
  waySize: [number, number, number];
  ways: Float32Array;
}

export const MATERIAL = {
  stride: 56,
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
  /** Texture numbers, -1 for none. */
  baseTexture: 24,
  ormTexture: 25,
  normalTexture: 26,
  emissiveTexture: 27,
  normalStrength: 28,
  transmissionTexture: 29,
  clearcoatTexture: 30,
  sheenColor: 31,
  sheenRoughness: 34,
  iridescence: 35,
  iridescenceIor: 36,
  iridescenceThickness: 37,
  anisotropy: 38,
  anisotropyRotation: 39,
  /** The artist's mirror: strength, blur, reach (0: endless). */
  mirror: 40,
  mirrorBlur: 41,
  mirrorReach: 42,
  /** 1: the camera sees only the shadows and mirror images that fall on it. */
  catcher: 43,
  /** 1 when light may pass: glass, or alpha. */
  passes: 44,
  /** 1 when any texture is set. */
  textured: 45,
  finish: 46,
  /** Which table a brushed finish looks up. */
  brushed: 47,
  /** 0 for what light falls on; unlit finishes have the view transform that they are shown through, from 1. */
  unlit: 48,
} as const;

/** Texture entry: | 0 byte offset | 1 width | 2 height | 3 wrap u | 4 wrap v | 5 sRGB | 6..11 uv matrix (f32 bits) | 12 levels | */
export const TEXTURE = { stride: 14, wrapRepeat: 0, wrapMirror: 1, wrapClamp: 2 } as const;

export const LIGHT = {
  stride: 52,
  kind: 0,
  pass: 1,
  centre: 2,
  u: 5,
  v: 8,
  normal: 11,
  /** cd/m2; for points and spots without size cd; for suns cd/m2 of the disc. */
  radiance: 14,
  area: 17,
  radius: 18,
  /** Tangent of the angle at which a honeycomb grid cuts off; 0: none. */
  gridAngle: 19,
  /** Cosines between which a beam fades; both -2 for none. */
  coneInner: 20,
  coneOuter: 21,
  texture: 23,
  gobo: 24,
  goboDistance: 25,
  goboWidth: 26,
  goboHeight: 27,
  /** Row of the link table, -1: reaches everything. */
  link: 28,
  instance: 30,
  triangle: 31,
  /** Centre, u, v, normal when the shutter closes. */
  close: 32,
  moving: 44,
} as const;
export const LIGHT_KIND = { rect: 0, disc: 1, sphere: 2, point: 3, sun: 4, triangle: 5 } as const;

/** Words of an instance: integers up to `lights`, then rows of 3 x 4 matrices in f32. */
export const INSTANCE = {
  stride: 76,
  kind: 0,
  mesh: 1,
  mask: 2,
  flags: 3,
  slots: 4,
  thing: 5,
  /** Address of one i32 a triangle: its light, -1 for none; 0 when no part glows. */
  lights: 6,
  inverse: 8,
  open: 20,
  close: 32,
  before: 44,
  /** The inverse again as four columns of four, for vectors. */
  columns: 56,
} as const;
/** `deforms`: its triangles move while the shutter is open. */
export const INSTANCE_FLAG = { moving: 1, identity: 2, deforms: 4 } as const;
/** Kinds of ray that a thing's mask answers to. */
export const RAY = { camera: 1, reflection: 2, shadow: 4, lighting: 8 } as const;

export const CAMERA = {
  size: 45,
  open: 0,
  close: 12,
  before: 24,
  tangent: 36,
  aspect: 37,
  aperture: 38,
  focus: 39,
  blades: 40,
  bladeRotation: 41,
  shiftX: 42,
  shiftY: 43,
  tangentBefore: 44,
} as const;

export const VOLUME_STRIDE = 32;
/** Edge of the square of pixels that a thread traces at a time. */
export const TILE = 16;

/** The kernel's planes in order, with floats a pixel; the light passes follow, three floats each. */
export const PLANES = [
  ['beauty', 3],
  ['variance', 1],
  ['alpha', 1],
  ['albedo', 3],
  ['normal', 3],
  ['depth', 1],
  ['samples', 1],
  ['pairedAlbedo', 3],
  ['pairedNormal', 3],
  ['pairedDepth', 1],
  ['direct', 3],
  ['indirect', 3],
  ['diffuse', 3],
  ['glossy', 3],
  ['transmission', 3],
  ['emission', 3],
  ['reflection', 3],
  ['open', 1],
  ['shaded', 1],
  ['motion', 2],
  ['thing', 4],
  ['thingCover', 4],
  ['finish', 4],
  ['finishCover', 4],
  ['opaqueDepth', 1],
  ['transmittance', 3],
] as const;
/** How many of them every picture has. */
export const BASIC_PLANES = 10;

/** Words of the kernel's Scene header, in order. f: a float, the rest integers. */
export const SCENE_WORDS = [
  'nodes',
  'lightNodes',
  'instances',
  'instanceCount',
  'solidCount',
  'materials',
  'textures',
  'texels',
  'srgb',
  'lights',
  'lightCount',
  'tree',
  'treeNodes',
  'sunCount',
  'trails',
  'links',
  'thingCount',
  'environment',
  'environmentAlias',
  'environmentWidth',
  'environmentHeight',
  'environmentSum',
  'environmentCos',
  'environmentSin',
  'environmentSeen',
  'camera',
  'volumes',
  'volumeCount',
  'tables',
  'brushed',
  'blueNoise',
  'pixelFilter',
  'maxDepth',
  'maxBounces',
  'clamp',
  'exposureScale',
  'lightPasses',
  'moving',
] as const;
export const SCENE_FLOATS = ['environmentSum', 'environmentCos', 'environmentSin', 'clamp', 'exposureScale'];
/** Words of the kernel's Job, in order. */
export const JOB_WORDS = [
  'counter',
  'cancelled',
  'width',
  'height',
  'x0',
  'y0',
  'x1',
  'y1',
  'first',
  'samples',
  'most',
  'features',
  'target',
  'seed',
  'points',
  'detail',
  'planes',
] as const;
