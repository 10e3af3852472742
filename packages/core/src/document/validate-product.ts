import * as yup from 'yup';
import { PATTERN_KINDS, TEXTURE_SLOTS } from '../finish/index.ts';
import { builderSchema } from './builders.ts';
import { finite, flag, hash, hex, id, list, name, numbers, oneOf, point, shape, share, text, whole } from './fields.ts';
import { LONGEST_FILM, PROJECTIONS, UNWRAPS } from './product-types.ts';

/** A stored file, or none. */
const fileOf = (label: string): yup.AnySchema =>
  text(label, 64).matches(/^([0-9a-f]{64})?$/, `${label} is not the name of a stored file.`);

const look = shape({
  black: share('Black point'),
  white: share('White point'),
  invert: flag('Invert'),
  tint: hex('Tint'),
});

const pattern = shape({
  kind: oneOf('Pattern', PATTERN_KINDS),
  seed: whole('Seed', 0, 0xffffffff),
  count: whole('Count', 1, 64),
  amount: share('Amount'),
  softness: share('Softness'),
  colours: yup.array().of(hex('Pattern colour')).strict().length(3, 'A pattern has three colours.'),
  size: whole('Pattern size', 16, 4096),
});

const rgb = (label: string, max = 1): yup.AnySchema => numbers(label, 3, 0, max);

const picture = shape({
  asset: text('Picture file', 64).matches(/^([0-9a-f]{64})?$/, 'Picture file is not the name of a stored file.'),
  pattern: yup.lazy((value: unknown) =>
    value === null ? yup.mixed().nullable() : pattern,
  ) as unknown as yup.AnySchema,
  look: yup.lazy((value: unknown) => (value === null ? yup.mixed().nullable() : look)) as unknown as yup.AnySchema,
  emboss: flag('Emboss'),
});

const textureUse = shape({
  picture: picture.optional().default(undefined),
  image: whole('Texture image', 0, 10000),
  offset: numbers('Texture offset', 2, -1000, 1000),
  rotation: finite('Texture rotation', -1000, 1000),
  scale: numbers('Texture repeat', 2, -1000, 1000),
  strength: finite('Texture strength', -100, 100),
  wrap: yup
    .array()
    .of(oneOf('Texture wrap', ['repeat', 'mirror', 'clamp']))
    .strict()
    .length(2),
});

export const finishSchema = shape({
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
  iridescenceThickness: numbers('Film thickness', 2, 0, 100000),
  anisotropy: share('Anisotropy'),
  anisotropyRotation: finite('Anisotropy rotation', -1000, 1000),
  emissive: rgb('Emissive colour'),
  emissiveStrength: finite('Emissive strength', 0, 1e6),
  doubleSided: flag('Double sided'),
  unlit: flag('Unlit'),
  textures: shape(Object.fromEntries(TEXTURE_SLOTS.map((slot) => [slot, textureUse.optional().default(undefined)]))),
});

const sheet = shape({
  id: id('Id'),
  name: name('Sheet name'),
  picture,
  width: whole('Sheet width', 1, 20000),
  height: whole('Sheet height', 1, 20000),
  film: list('Frames of a film', hash('Frame of a film'), LONGEST_FILM).optional().default(undefined),
});

const stroke = shape({
  hide: flag('Brush hides'),
  radius: finite('Brush radius', 1e-4, 2),
  points: yup
    .array()
    .of(finite('Place of a stroke', -4, 5))
    .strict()
    .min(2, 'A stroke has a place at least.')
    .max(4000, 'A stroke has too many places.'),
});

const slot = shape({
  id: id('Id'),
  name: name('Slot name'),
  part: whole('Part of a slot', 0, 100000),
  projection: oneOf('Projection', PROJECTIONS),
  centre: point('Middle of the slot'),
  turn: finite('Slot turn', -1e6, 1e6),
  roll: finite('Slot roll', -1e6, 1e6),
  width: finite('Slot width', 1e-4, 1000),
  height: finite('Slot height', 1e-4, 1000),
  corner: finite('Slot corner', 0, 0.5),
  offset: numbers('Art offset', 2, -1000, 1000),
  repeat: numbers('Art repeat', 2, -1000, 1000),
  rotation: finite('Art rotation', -1e6, 1e6),
  colour: flag('Art changes colour'),
  roughness: finite('Roughness of the art', -1, 1),
  emboss: finite('Emboss', -20, 20),
  mask: list('Mask strokes', stroke, 400).optional().default(undefined),
});

const variant = shape({
  id: id('Id'),
  name: name('Variant name'),
  fills: list('Fills', shape({ slot: id('Slot'), sheet: text('Sheet', 64), look }), 200),
  finishes: list(
    'Finishes of a variant',
    shape({ part: whole('Part', 0, 100000), finish: whole('Finish', 0, 10000) }),
    5000,
  ),
  hidden: list('Hidden parts', whole('Part', 0, 100000), 5000),
});

export const productSchema = shape({
  version: whole('Version', 2, 2),
  name: name('Product name'),
  fileName: text('File name', 255),
  source: fileOf('Source file'),
  model: fileOf('Model file'),
  prepare: shape({
    unwraps: list('Unwraps', shape({ part: whole('Part', 0, 100000), unwrap: oneOf('Uv', UNWRAPS) }), 5000),
    toBase: flag('Origin at the base'),
    normals: flag('Normals made anew'),
  }),
  builder: builderSchema as unknown as yup.AnySchema,
  scale: finite('Scale', 1e-6, 1e6),
  extent: numbers('Size', 3, 0, 1e9),
  parts: list(
    'Parts',
    shape({
      index: whole('Part number', 0, 100000),
      name: text('Part name', 200),
      finish: whole('Finish of a part', 0, 10000),
      triangles: whole('Triangles', 0, 1e8),
      visible: flag('Visible'),
    }),
    5000,
  ),
  finishes: list('Finishes', finishSchema, 1000),
  sheets: list('Label sheets', sheet, 500),
  slots: list('Label slots', slot, 200),
  variants: list('Variants', variant, 200).test(
    'some',
    'A product keeps at least one variant.',
    (v) => (v as unknown[])?.length > 0,
  ),
});
