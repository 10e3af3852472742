import {
  PATTERN_KINDS,
  TEXTURE_SLOTS,
  type Finish,
  type PatternRecipe,
  type PictureSource,
  type Rgb,
  type TextureUse,
  type TextureWrap,
} from '../finish/index.ts';
import {
  fileOrNone,
  finite,
  flag,
  hex,
  list,
  numbers,
  oneOf,
  optional,
  orNull,
  shape,
  share,
  text,
  whole,
  type Field,
  type Fields,
} from './fields.ts';

type Look = NonNullable<PictureSource['look']>;

/** Levels, inversion and tint of a picture. */
export const lookSchema = shape<Look>({
  black: share('Black point'),
  white: share('White point'),
  invert: flag('Invert'),
  tint: hex('Tint'),
});

const pattern = shape<PatternRecipe>({
  kind: oneOf('Pattern', PATTERN_KINDS),
  seed: whole('Seed', 0, 0xffffffff),
  count: whole('Count', 1, 64),
  amount: share('Amount'),
  softness: share('Softness'),
  colours: list('Pattern colours', hex('Pattern colour'), 3, 3, 'A pattern has three colours.') as unknown as Field<
    PatternRecipe['colours']
  >,
  size: whole('Pattern size', 16, 4096),
});

/** A picture as documents hold it; masks are added when art is laid out. */
export const pictureSchema = shape<Omit<PictureSource, 'mask'>>({
  asset: fileOrNone('Picture file'),
  pattern: orNull(pattern),
  look: orNull(lookSchema),
  emboss: flag('Emboss'),
});

const rgb = (label: string, max = 1): Field<Rgb> => numbers<Rgb>(label, 3, 0, max);
const pair = (label: string, min: number, max: number): Field<[number, number]> =>
  numbers<[number, number]>(label, 2, min, max);

const textureUse = shape<TextureUse>({
  picture: optional(pictureSchema),
  image: whole('Texture image', 0, 10000),
  offset: pair('Texture offset', -1000, 1000),
  rotation: finite('Texture rotation', -1000, 1000),
  scale: pair('Texture repeat', -1000, 1000),
  strength: finite('Texture strength', -100, 100),
  wrap: list(
    'Texture wrap',
    oneOf('Texture wrap', ['repeat', 'mirror', 'clamp']),
    2,
    2,
    'A texture has a wrap in both directions.',
  ) as unknown as Field<[TextureWrap, TextureWrap]>,
});

/** What each value of a finish may be. */
export const finishFields: Fields<Finish> = {
  name: text('Finish name', 200),
  baseColor: rgb('Base colour'),
  alpha: share('Alpha'),
  alphaMode: oneOf('Alpha mode', ['opaque', 'mask', 'blend']),
  alphaCutoff: share('Alpha cut-off'),
  metallic: share('Metal'),
  roughness: share('Roughness'),
  ior: finite('Index of refraction', 1, 4),
  specular: share('Specular'),
  specularColor: rgb('Specular colour', 100),
  transmission: share('Transmission'),
  thickness: finite('Thickness', 0, 100),
  attenuationColor: rgb('Attenuation colour'),
  attenuationDistance: finite('Attenuation distance', 0, 1e6),
  clearcoat: share('Clearcoat'),
  clearcoatRoughness: share('Clearcoat roughness'),
  sheenColor: rgb('Sheen colour'),
  sheenRoughness: share('Sheen roughness'),
  iridescence: share('Iridescence'),
  iridescenceIor: finite('Film index of refraction', 1, 4),
  iridescenceThickness: pair('Film thickness', 0, 100000),
  anisotropy: share('Anisotropy'),
  anisotropyRotation: finite('Anisotropy rotation', -1000, 1000),
  emissive: rgb('Emissive colour'),
  emissiveStrength: finite('Emissive strength', 0, 1e6),
  doubleSided: flag('Double sided'),
  unlit: flag('Unlit'),
  textures: shape<Finish['textures']>(
    Object.fromEntries(TEXTURE_SLOTS.map((slot) => [slot, optional(textureUse)])) as {
      [K in keyof Finish['textures']]-?: Field<Finish['textures'][K]>;
    },
  ),
};

export const finishSchema = shape<Finish>(finishFields);
