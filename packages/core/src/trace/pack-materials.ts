import { cos, log, sin } from '../maths/index.ts';
import { srgbToLinear, linearToSrgb, type Finish, type TextureUse } from '../finish/index.ts';
import type { Tableau, TableauSurface } from '../scene/index.ts';
import { MATERIAL, TEXTURE } from './layout.ts';

/** RGBA bytes, rows from the top, not premultiplied. */
export interface DecodedImage {
  width: number;
  height: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** Finds the pixels of a texture; none while they are not there yet. */
export type ImageLookup = (use: TextureUse) => DecodedImage | undefined;

/** One row of the material table. */
export function packMaterial(
  finish: Finish,
  images: ImageLookup,
  key: string,
  pool: TexturePool,
  number: number,
  view: Tableau['view'],
  surface?: Pick<TableauSurface, 'mirror' | 'catcher'>,
): number[] {
  const m = new Array<number>(MATERIAL.stride).fill(0);
  const put = (at: number, values: readonly number[]): void => values.forEach((v, i) => (m[at + i] = v));
  put(MATERIAL.baseColor, finish.baseColor);
  m[MATERIAL.alpha] = finish.alpha;
  m[MATERIAL.metallic] = finish.metallic;
  m[MATERIAL.roughness] = finish.roughness;
  m[MATERIAL.ior] = finish.ior;
  m[MATERIAL.specular] = finish.specular;
  put(MATERIAL.specularColor, finish.specularColor);
  m[MATERIAL.transmission] = finish.transmission;
  m[MATERIAL.volume] = finish.thickness > 0 ? 1 : 0;
  if (finish.attenuationDistance > 0) {
    put(
      MATERIAL.absorption,
      finish.attenuationColor.map((c) => -log(Math.max(1e-4, c)) / finish.attenuationDistance),
    );
    // A coloured filling inside a clear vessel is modelled slightly larger than the cavity; it wins the overlap.
    m[MATERIAL.priority] = 1;
  }
  m[MATERIAL.clearcoat] = finish.clearcoat;
  m[MATERIAL.clearcoatRoughness] = finish.clearcoatRoughness;
  put(
    MATERIAL.emission,
    finish.emissive.map((e) => e * finish.emissiveStrength),
  );
  put(MATERIAL.sheenColor, finish.sheenColor);
  m[MATERIAL.sheenRoughness] = finish.sheenRoughness;
  m[MATERIAL.iridescence] = finish.iridescence;
  m[MATERIAL.iridescenceIor] = finish.iridescenceIor;
  // Without a thickness texture the film has its full thickness (KHR_materials_iridescence).
  m[MATERIAL.iridescenceThickness] = finish.iridescenceThickness[1];
  m[MATERIAL.anisotropy] = finish.anisotropy;
  m[MATERIAL.anisotropyRotation] = finish.anisotropyRotation;
  m[MATERIAL.alphaMode] = ['opaque', 'mask', 'blend'].indexOf(finish.alphaMode);
  m[MATERIAL.alphaCutoff] = finish.alphaCutoff;
  packTextures(m, finish, images, key, pool);
  if (finish.unlit) makeUnlit(m, view);
  if (surface?.mirror) {
    const { strength, blur, reach } = surface.mirror;
    put(MATERIAL.mirror, [strength, blur, reach]);
  }
  m[MATERIAL.catcher] = surface?.catcher ? 1 : 0;
  m[MATERIAL.passes] = m[MATERIAL.transmission] > 0 || m[MATERIAL.alphaMode] > 0 ? 1 : 0;
  m[MATERIAL.finish] = number;
  return m;
}

function packTextures(m: number[], finish: Finish, images: ImageLookup, key: string, pool: TexturePool): void {
  const texture = (use: TextureUse | undefined, srgb: boolean): number =>
    use ? pool.add(key, use, images(use), srgb) : -1;
  const { textures } = finish;
  m[MATERIAL.baseTexture] = texture(textures.baseColor, true);
  m[MATERIAL.ormTexture] = texture(textures.metallicRoughness, false);
  m[MATERIAL.normalTexture] = texture(textures.normal, false);
  m[MATERIAL.normalStrength] = textures.normal?.strength ?? 1;
  m[MATERIAL.emissiveTexture] = texture(textures.emissive, true);
  m[MATERIAL.transmissionTexture] = texture(textures.transmission, false);
  m[MATERIAL.clearcoatTexture] = texture(textures.clearcoat, false);
  const used = ['base', 'orm', 'normal', 'emissive', 'transmission', 'clearcoat'] as const;
  m[MATERIAL.textured] = used.some((slot) => m[MATERIAL[`${slot}Texture`]] >= 0) ? 1 : 0;
}

/** The view transforms as the kernel numbers them. */
const VIEWS = ['neutral', 'filmic', 'plain'] as const;

/**
 * KHR_materials_unlit: the base colour with its art is a display colour. The kernel gives it the light that the view
 * transform turns into that colour at the picture's exposure; it reflects nothing and lights nothing.
 */
function makeUnlit(m: number[], view: Tableau['view']): void {
  m[MATERIAL.unlit] = VIEWS.indexOf(view) + 1;
  for (let c = 0; c < 3; c++) m[MATERIAL.emission + c] = m[MATERIAL.sheenColor + c] = 0;
  for (const part of [MATERIAL.metallic, MATERIAL.transmission, MATERIAL.clearcoat]) m[part] = 0;
}

/** Textures packed before: images keep their smaller levels, and a pool that is the same as the last stays where it is. */
export class TextureCache {
  private readonly levels = new WeakMap<DecodedImage, Map<boolean, Uint8Array[]>>();
  private last: { key: string; images: DecodedImage[]; packed: PackedTextures } | null = null;

  levelsOf(image: DecodedImage, srgb: boolean): Uint8Array[] {
    const known = this.levels.get(image) ?? new Map<boolean, Uint8Array[]>();
    this.levels.set(image, known);
    const levels = known.get(srgb) ?? makeLevels(image, srgb);
    known.set(srgb, levels);
    return levels;
  }

  /** The last result when it was made of the same, or a new one. */
  reuse(key: string, images: DecodedImage[], make: () => PackedTextures): PackedTextures {
    const { last } = this;
    const same = last?.key === key && last.images.every((image, i) => image === images[i]);
    if (!same) this.last = { key, images, packed: make() };
    return this.last!.packed;
  }
}

export interface PackedTextures {
  textures: Int32Array;
  texels: Uint8Array;
}

/** Collects textures once each, however many finishes use them. */
export class TexturePool {
  private readonly table: number[][] = [];
  private readonly offsets = new Map<DecodedImage, Map<boolean, number>>();
  private readonly pixels: Array<{ image: DecodedImage; srgb: boolean; at: number }> = [];
  private readonly known = new Map<string, number>();
  private size = 0;

  constructor(private readonly cache: TextureCache) {}

  add(
    key: string,
    use: Omit<TextureUse, 'image' | 'strength'>,
    image: DecodedImage | undefined,
    srgb: boolean,
  ): number {
    if (!image) return -1;
    const name = JSON.stringify([key, use, srgb]);
    const existing = this.known.get(name);
    if (existing !== undefined) return existing;
    const wrap = { repeat: TEXTURE.wrapRepeat, mirror: TEXTURE.wrapMirror, clamp: TEXTURE.wrapClamp };
    const c = cos(use.rotation);
    const s = sin(use.rotation);
    // KHR_texture_transform: offset + rotation * scale * uv, rotation counter-clockwise in a v-down space.
    const [su, sv] = use.scale;
    const matrix = [c * su, s * sv, use.offset[0], -s * su, c * sv, use.offset[1]];
    this.table.push([
      this.place(image, srgb),
      image.width,
      image.height,
      wrap[use.wrap[0]],
      wrap[use.wrap[1]],
      srgb ? 1 : 0,
      ...new Int32Array(Float32Array.from(matrix).buffer),
      this.cache.levelsOf(image, srgb).length,
      0,
    ]);
    this.known.set(name, this.table.length - 1);
    return this.table.length - 1;
  }

  private place(image: DecodedImage, srgb: boolean): number {
    const places = this.offsets.get(image) ?? new Map<boolean, number>();
    this.offsets.set(image, places);
    if (!places.has(srgb)) {
      places.set(srgb, this.size);
      this.pixels.push({ image, srgb, at: this.size });
      this.size += this.cache.levelsOf(image, srgb).reduce((n, level) => n + level.length, 0);
    }
    return places.get(srgb)!;
  }

  pack(): PackedTextures {
    const images = this.pixels.map((p) => p.image);
    return this.cache.reuse(JSON.stringify(this.table), images, () => {
      const texels = new Uint8Array(this.size);
      for (const { image, srgb, at } of this.pixels) {
        let offset = at;
        for (const level of this.cache.levelsOf(image, srgb)) {
          texels.set(level, offset);
          offset += level.length;
        }
      }
      return { textures: Int32Array.from(this.table.flat()), texels };
    });
  }
}

const DECODE = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));

/**
 * An image and its smaller levels, each half the size (at least 1), averaged two by two: in linear light for sRGB
 * images, with colours weighted by alpha so that what is transparent does not bleed.
 */
export function makeLevels({ width, height, data }: DecodedImage, srgb: boolean): Uint8Array[] {
  const levels = [new Uint8Array(data.buffer, data.byteOffset, data.byteLength)];
  let [w, h] = [width, height];
  while (w > 1 || h > 1) {
    const from = levels.at(-1)!;
    const [nw, nh] = [Math.max(1, w >> 1), Math.max(1, h >> 1)];
    const to = new Uint8Array(nw * nh * 4);
    for (let y = 0; y < nh; y++) {
      const rows = [Math.min(h - 1, y * 2) * w, Math.min(h - 1, y * 2 + 1) * w];
      for (let x = 0; x < nw; x++)
        averageFour(from, rows, Math.min(w - 1, x * 2), Math.min(w - 1, x * 2 + 1), to, (y * nw + x) * 4, srgb);
    }
    levels.push(to);
    [w, h] = [nw, nh];
  }
  return levels;
}

function averageFour(
  from: Uint8Array,
  rows: number[],
  xa: number,
  xb: number,
  to: Uint8Array,
  at: number,
  srgb: boolean,
): void {
  const p = [(rows[0] + xa) * 4, (rows[0] + xb) * 4, (rows[1] + xa) * 4, (rows[1] + xb) * 4];
  const alpha = from[p[0] + 3] + from[p[1] + 3] + from[p[2] + 3] + from[p[3] + 3];
  for (let c = 0; c < 3; c++) {
    let sum = 0;
    for (let i = 0; i < 4; i++) {
      const byte = from[p[i] + c];
      sum += (srgb ? DECODE[byte] : byte) * (alpha > 0 ? from[p[i] + 3] : 1);
    }
    const mean = sum / (alpha > 0 ? alpha : 4);
    to[at + c] = srgb ? linearToSrgb(mean) * 255 + 0.5 : mean + 0.5;
  }
  to[at + 3] = alpha / 4 + 0.5;
}

/** Which of the kernel's tables a scene needs: they take a while to fill. */
export function tablesFor(materials: Float32Array): { sheen: boolean; glass: boolean } {
  let [sheen, glass] = [false, false];
  for (let i = 0; i < materials.length; i += MATERIAL.stride) {
    const m = materials.subarray(i, i + MATERIAL.stride);
    sheen ||= Math.max(...m.subarray(MATERIAL.sheenColor, MATERIAL.sheenColor + 3)) > 0;
    glass ||= m[MATERIAL.transmission] > 0 && (m[MATERIAL.roughness] > 0 || m[MATERIAL.ormTexture] >= 0);
  }
  return { sheen, glass };
}
