import type { MaskStroke } from '../../finish/index.ts';
import {
  fileOrNone,
  finite,
  flag,
  hash,
  item,
  list,
  name,
  numbers,
  oneOf,
  optional,
  orNull,
  point,
  shape,
  text,
  id,
  versionOf,
  whole,
  type Field,
} from '../fields.ts';
import type { Point } from '../common.ts';
import { finishFields, lookSchema, pictureSchema } from '../finish-schema.ts';
import { builderSchema } from './builders/index.ts';
import {
  LONGEST_FILM,
  PROJECTIONS,
  UNWRAPS,
  type FilePose,
  type LabelSlot,
  type ModelOrigin,
  type Preparation,
  type ProductDocument,
  type ProductFinish,
  type ProductPart,
  type Sheet,
  type SlotFill,
  type Variant,
} from './types.ts';

const part = (label = 'Part'): Field<number> => whole(label, 0, 100000);

const sheet = shape<Sheet>({
  ...item('Sheet name'),
  picture: pictureSchema,
  width: whole('Sheet width', 1, 20000),
  height: whole('Sheet height', 1, 20000),
  film: optional(list('Frames of a film', hash('Frame of a film'), LONGEST_FILM)),
});

const stroke = shape<MaskStroke>({
  hide: flag('Brush hides'),
  radius: finite('Brush radius', 1e-4, 2),
  points: list('Places of a stroke', finite('Place of a stroke', -4, 5), 4000, 2, 'A stroke has a place at least.'),
});

const slot = shape<LabelSlot>({
  ...item('Slot name'),
  part: part('Part of a slot'),
  projection: oneOf('Projection', PROJECTIONS),
  centre: point('Middle of the slot'),
  turn: finite('Slot turn', -1e6, 1e6),
  roll: finite('Slot roll', -1e6, 1e6),
  width: finite('Slot width', 1e-4, 1000),
  height: finite('Slot height', 1e-4, 1000),
  corner: finite('Slot corner', 0, 0.5),
  offset: numbers<[number, number]>('Art offset', 2, -1000, 1000),
  repeat: numbers<[number, number]>('Art repeat', 2, -1000, 1000),
  rotation: finite('Art rotation', -1e6, 1e6),
  colour: flag('Art changes colour'),
  roughness: finite('Roughness of the art', -1, 1),
  emboss: finite('Emboss', -20, 20),
  mask: optional(list('Mask strokes', stroke, 400)),
});

const productFinish = shape<ProductFinish>({
  ...finishFields,
  id: id('Id of a finish'),
  order: optional(text('Order', 64)),
});

const variant = shape<Variant>({
  ...item('Variant name'),
  fills: list('Fills', shape<SlotFill>({ slot: id('Slot'), sheet: text('Sheet', 64), look: lookSchema }), 1000),
  finishes: list(
    'Finishes of a variant',
    shape<Variant['finishes'][number]>({ part: part(), finish: id('Finish') }),
    5000,
  ),
  hidden: list('Hidden parts', part(), 5000),
});

export const productSchema = shape<ProductDocument>({
  version: versionOf(3),
  name: name('Product name'),
  fileName: text('File name', 255),
  source: fileOrNone('Source file'),
  model: fileOrNone('Model file'),
  origin: optional(
    shape<ModelOrigin>({
      files: list(
        'Files of a model',
        shape<ModelOrigin['files'][number]>({ name: text('File name', 1000), asset: fileOrNone('File of a model') }),
        5000,
      ),
      animations: list(
        'Animations',
        shape<ModelOrigin['animations'][number]>({
          name: text('Animation name', 200),
          seconds: finite('Length', 0, 1e6),
        }),
        1000,
      ),
      pose: orNull(
        shape<FilePose>({ animation: whole('Animation', 0, 10_000), seconds: finite('Time of the pose', 0, 1e6) }),
      ),
    }),
  ),
  prepare: shape<Preparation>({
    unwraps: list(
      'Unwraps',
      shape<Preparation['unwraps'][number]>({ part: part(), unwrap: oneOf('Uv', UNWRAPS) }),
      5000,
    ),
    toBase: flag('Origin at the base'),
    normals: flag('Normals made anew'),
  }),
  builder: builderSchema,
  scale: finite('Scale', 1e-6, 1e6),
  extent: numbers<Point>('Size', 3, 0, 1e9),
  parts: list(
    'Parts',
    shape<ProductPart>({
      index: part('Part number'),
      name: text('Part name', 200),
      finish: id('Finish of a part'),
      triangles: whole('Triangles', 0, 1e8),
      visible: flag('Visible'),
    }),
    5000,
  ),
  finishes: list('Finishes', productFinish, 1000),
  sheets: list('Label sheets', sheet, 500),
  slots: list('Label slots', slot, 1000),
  variants: list('Variants', variant, 200, 1, 'A product keeps at least one variant.'),
});
