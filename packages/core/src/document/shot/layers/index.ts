import { colour, type Properties } from '../../../properties/index.ts';
import {
  byKind,
  field,
  fileOrNone,
  finite,
  flag,
  hash,
  item,
  list,
  numbers,
  oneOf,
  optional,
  orNull,
  shape,
  text,
  whole,
  type Field,
} from '../../fields.ts';
import { curvesSchema } from './curves.ts';
import type { StrokePoint } from './drawn.ts';
import { maskPathSchema, type Spot } from './mask-path.ts';
import { LAYER_PROPERTIES, LAYER_SETTINGS, plainLayer } from './layer.ts';
import {
  LAYER_KINDS,
  LAYERS,
  type Film,
  type GradientStop,
  type Layer,
  type LayerDoes,
  type LayerKind,
} from './kinds.ts';

export {
  BLEND_MODES,
  LAYER_SPACES,
  MASK_FORMS,
  MATTE_FORMS,
  VIEWED_FROM,
  type BlendMode,
  type LayerBase,
  type LayerSpace,
} from './layer.ts';
export { CURVE_NAMES, HUE_CURVES, noCurves, TONE_CURVES, type CurveName, type Curves } from './curves.ts';
export { MASK_COMBINES, STROKE_FORMS, type StrokePoint } from './drawn.ts';
export type { MaskPoint, MaskShape, Spot } from './mask-path.ts';
export {
  FILTER_FORMS,
  LAYER_KINDS,
  LAYERS,
  type Film,
  type Framed,
  type GradientStop,
  type Layer,
  type LayerKind,
  type LayerOf,
} from './kinds.ts';

/** What of a layer can be set by a field, by name. */
export const layerProperties = (kind: LayerKind): Properties => ({
  ...LAYER_PROPERTIES,
  ...(LAYERS[kind].properties as Properties),
});

/** Kinds of layers that are part of another: the lights of a take, further masks. They do not stand in the stack. */
export const isPart = ({ kind }: Pick<Layer, 'kind'>): boolean => kind === 'fader' || kind === 'mask';

/** Whether a value of a layer takes keys. */
export const isLayerKeyed = (name: string): boolean => !LAYER_SETTINGS.has(name);

const own = (properties: Properties): Record<string, Field<unknown>> =>
  Object.fromEntries(Object.entries(properties).map(([name, property]) => [name, field(property as never)]));
/** What of every layer is no property. */
const EVERY: Record<string, Field<unknown>> = {
  group: text('Group', 64),
  parent: text('Parent', 64),
  thing: text('Thing', 64),
  maskThing: text('Thing of a mask', 64),
  maskFinish: optional(text('Finish of a mask', 255)),
  maskPath: maskPathSchema,
  matteLayer: text('Layer of a matte', 64),
};
/** What of a kind is no property. */
const BESIDES: Partial<Record<LayerKind, Record<string, Field<unknown>>>> = {
  gradient: {
    stops: optional(
      list(
        'Stops of a gradient',
        shape<GradientStop>({
          at: finite('Place of a stop', 0, 1),
          colour: field(colour('Colour of a stop')),
          opacity: finite('Opacity of a stop', 0, 1),
        }),
        24,
        2,
        'A gradient needs two stops at least.',
      ),
    ),
  },
  vapour: { loop: optional(finite('Loop of vapour', 0.1, 600)) },
  take: { take: text('Take', 64) },
  composite: { take: text('Take', 64) },
  text: { text: text('Text', 2000), font: text('Font', 80) },
  still: { asset: fileOrNone('Still') },
  fader: { light: text('Light', 64) },
  stroke: {
    filled: optional(flag('Filled')),
    points: list(
      'Points of a stroke',
      shape<StrokePoint>({
        at: numbers<Spot>('Point of a stroke', 2, -20, 20),
        in: numbers<Spot>('Handle of a stroke', 2, -20, 20),
        out: numbers<Spot>('Handle of a stroke', 2, -20, 20),
      }),
      500,
    ),
  },
  logo: { asset: fileOrNone('Logo'), title: text('Title of the logo', 255) },
  curves: { curves: curvesSchema },
  lut: { asset: fileOrNone('Colour table'), title: text('Title of the table', 255) },
  footage: {
    film: orNull(
      shape<Film>({
        list: hash('Footage'),
        name: text('Name of the film', 255),
        frames: whole('Frames of the film', 1, 1800),
        rate: finite('Rate of the film', 0.1, 120),
      }),
    ),
  },
};

export const layerSchema: Field<Layer> = byKind<Layer>(
  'Layer',
  Object.fromEntries(
    LAYER_KINDS.map((kind) => [
      kind,
      shape<Layer>({
        ...item('Layer name'),
        ...own(layerProperties(kind)),
        ...EVERY,
        ...BESIDES[kind],
        locked: flag('Locked'),
        kind: oneOf('Layer', [kind]),
      } as never),
    ]),
  ) as never,
);

/** A layer with the usual values. */
export function newLayer(kind: LayerKind, id: string, name: string, values: Partial<Layer> = {}): Layer {
  return { ...plainLayer(), ...(LAYERS[kind].usual as object), kind, id, name, ...values } as LayerDoes & Layer;
}
