import { pow } from '../maths/index.ts';
import type { Mask } from './mask.ts';
import type { PatternRecipe } from './patterns.ts';

/** Linear Rec.709. */
export type Rgb = [number, number, number];

/** A picture by what it is made from: a stored file or a pattern, then adjusted. The same source gives the same pixels everywhere. */
export interface PictureSource {
  /** SHA-256 of a stored picture; empty for a pattern. */
  asset: string;
  pattern: PatternRecipe | null;
  /** Levels, inversion and tint; null leaves it as it is. */
  look: { black: number; white: number; invert: boolean; tint: string } | null;
  /** Read as heights and turned into a normal map. */
  emboss: boolean;
  /** What a brush took away of it; its alpha. */
  mask?: Mask;
}

/** Where an image lands on a part; rotation in radians, as KHR_texture_transform has it. */
export interface TextureUse {
  /** Index into the model's images; not used when there is a `picture`. */
  image: number;
  picture?: PictureSource;
  offset: [number, number];
  rotation: number;
  scale: [number, number];
  /** Normal scale or occlusion strength; 1 elsewhere. */
  strength: number;
  wrap: [TextureWrap, TextureWrap];
}

export type TextureWrap = 'repeat' | 'mirror' | 'clamp';

export const TEXTURE_SLOTS = [
  'baseColor',
  'metallicRoughness',
  'normal',
  'emissive',
  'transmission',
  'clearcoat',
] as const;
export type TextureSlot = (typeof TEXTURE_SLOTS)[number];

/** How a surface looks: glTF 2.0 metallic-roughness with the ratified KHR extensions. Lengths in metres. */
export interface Finish {
  name: string;
  baseColor: Rgb;
  alpha: number;
  alphaMode: 'opaque' | 'mask' | 'blend';
  alphaCutoff: number;
  metallic: number;
  roughness: number;
  ior: number;
  specular: number;
  specularColor: Rgb;
  transmission: number;
  /** 0 means thin-walled: light passes straight through. */
  thickness: number;
  attenuationColor: Rgb;
  /** Metres after which white light has taken on the attenuation colour; 0 means clear. */
  attenuationDistance: number;
  clearcoat: number;
  clearcoatRoughness: number;
  sheenColor: Rgb;
  sheenRoughness: number;
  iridescence: number;
  iridescenceIor: number;
  /** Thin-film thickness in nanometres, minimum and maximum. */
  iridescenceThickness: [number, number];
  anisotropy: number;
  /** Radians. */
  anisotropyRotation: number;
  emissive: Rgb;
  emissiveStrength: number;
  doubleSided: boolean;
  unlit: boolean;
  textures: Partial<Record<TextureSlot, TextureUse>>;
}

const DEFAULTS: Omit<Finish, 'name'> = {
  baseColor: [1, 1, 1],
  alpha: 1,
  alphaMode: 'opaque',
  alphaCutoff: 0.5,
  metallic: 0,
  roughness: 0.5,
  ior: 1.5,
  specular: 1,
  specularColor: [1, 1, 1],
  transmission: 0,
  thickness: 0,
  attenuationColor: [1, 1, 1],
  attenuationDistance: 0,
  clearcoat: 0,
  clearcoatRoughness: 0,
  sheenColor: [0, 0, 0],
  sheenRoughness: 0,
  iridescence: 0,
  iridescenceIor: 1.3,
  iridescenceThickness: [100, 400],
  anisotropy: 0,
  anisotropyRotation: 0,
  emissive: [0, 0, 0],
  emissiveStrength: 1,
  doubleSided: false,
  unlit: false,
  textures: {},
};

/** A finish with everything not given at glTF's default (roughness 0.5 rather than 1). */
export function makeFinish(name: string, values: Partial<Omit<Finish, 'name'>> = {}): Finish {
  return { ...structuredCopy(DEFAULTS), ...values, name };
}

/** The one neutral finish of clay takes. */
export function clayFinish(): Finish {
  return makeFinish('Clay', { baseColor: [0.42, 0.4, 0.385], roughness: 0.75, specular: 0.4, doubleSided: true });
}

function structuredCopy<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}

/** sRGB hex (`#C98F6B`) to linear. Returns null when it is not a six-digit hex colour. */
export function hexToLinear(hex: string): Rgb | null {
  const match = /^#?([0-9a-f]{6})$/i.exec(hex.trim());
  if (!match) return null;
  const n = parseInt(match[1], 16);
  return [srgbToLinear((n >> 16) / 255), srgbToLinear(((n >> 8) & 255) / 255), srgbToLinear((n & 255) / 255)];
}

export function linearToHex(rgb: Rgb): string {
  const part = (v: number): string =>
    Math.round(linearToSrgb(Math.min(1, Math.max(0, v))) * 255)
      .toString(16)
      .padStart(2, '0');
  return `#${part(rgb[0])}${part(rgb[1])}${part(rgb[2])}`.toUpperCase();
}

/** IEC 61966-2-1 decoding of one channel, 0..1. */
export function srgbToLinear(v: number): number {
  return v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4);
}

/** IEC 61966-2-1 encoding of one channel, 0..1. */
export function linearToSrgb(v: number): number {
  return v <= 0.0031308 ? v * 12.92 : 1.055 * pow(v, 1 / 2.4) - 0.055;
}
