import * as yup from 'yup';
import { finite, flag, hex, id, list, name, oneOf, point, shape, share, text, whole } from './fields.ts';
import { finishSchema } from './validate-product.ts';
import { BLOCK_FORMS, GOBO_PATTERNS, GRADIENTS, LIGHT_SHAPES, ROOM_KINDS, VIEW_TRANSFORMS } from './types.ts';

const seenBy = shape({
  camera: flag('Seen by camera'),
  reflections: flag('Seen in reflections'),
  shadows: flag('Casts shadows'),
  lighting: flag('Bounces light'),
});

const held = { group: text('Group', 120), locked: flag('Locked') };

const look = {
  ...held,
  finish: yup.lazy((value: unknown) =>
    value === null ? yup.mixed().nullable() : finishSchema,
  ) as unknown as yup.AnySchema,
  id: id('Id'),
  name: name('Surface name'),
  colour: hex('Colour'),
  roughness: share('Roughness'),
  visible: flag('Visible'),
  seenBy,
};

const sweep = shape({
  ...look,
  kind: oneOf('Kind', ['sweep']),
  width: finite('Width', 0.05, 100),
  depth: finite('Depth', 0.05, 100),
  height: finite('Height', 0, 100),
  radius: finite('Radius', 0, 100),
  mirror: shape({
    strength: share('Mirror strength'),
    blur: share('Mirror blur'),
    reach: finite('Mirror reach', 0, 100),
  }),
  catcher: flag('Shadows only'),
});

export const cardSchema = shape({
  ...look,
  kind: oneOf('Kind', ['card']),
  width: finite('Width', 0.01, 20),
  height: finite('Height', 0.01, 20),
  position: point('Position'),
  aim: point('Aim'),
});

const block = shape({
  ...look,
  kind: oneOf('Kind', ['block']),
  form: oneOf('Form', BLOCK_FORMS),
  width: finite('Width', 0.005, 100),
  height: finite('Height', 0, 100),
  depth: finite('Depth', 0, 100),
  bevel: finite('Edge', 0, 10),
  steps: whole('Steps', 1, 40),
  position: point('Position'),
  turn: finite('Turn', -1e6, 1e6),
});

const KINDS: Record<string, yup.AnySchema> = { sweep, card: cardSchema, block };
const surface = yup.lazy((value: { kind?: string } | undefined) => KINDS[value?.kind ?? ''] ?? sweep);

export const lightSchema = shape({
  id: id('Id'),
  name: name('Light name'),
  role: oneOf('Role', ['key', 'fill', 'rim', 'top', 'background']),
  shape: oneOf('Shape', LIGHT_SHAPES),
  width: finite('Width', 0.005, 20),
  height: finite('Height', 0.005, 20),
  position: point('Position'),
  aim: point('Aim'),
  kelvin: finite('Colour', 1000, 25000),
  lumens: finite('Power', 0, 1e6),
  on: flag('On'),
  seen: flag('Seen by camera'),
  spread: finite('Honeycomb', 0, 89),
  cone: finite('Beam', 0, 175),
  softness: share('Softness'),
  gradient: oneOf('Gradient', GRADIENTS),
  gobo: shape({
    pattern: oneOf('Gobo', GOBO_PATTERNS),
    distance: finite('Gobo distance', 0.01, 20),
    width: finite('Gobo width', 0.01, 20),
    height: finite('Gobo height', 0.01, 20),
    repeat: whole('Gobo repeat', 1, 60),
    seed: whole('Gobo seed', 0, 0xffffffff),
  }),
  touches: shape({
    mode: oneOf('Touches', ['all', 'only', 'except']),
    things: list('Touched things', id('Thing'), 500),
  }),
  ...held,
  mark: hex('Mark'),
});

const camera = shape({
  id: id('Id'),
  name: name('Camera name'),
  position: point('Position'),
  aim: point('Aim'),
  focalLength: finite('Focal length', 4, 1200),
  sensorWidth: finite('Sensor width', 1, 100),
  fNumber: finite('Aperture', 0, 128),
  focus: finite('Focus distance', 0, 1000),
  focusOn: text('Focus on', 64),
  exposure: finite('Exposure', -20, 20),
  blades: whole('Blades', 0, 16).test(
    'polygon',
    'An aperture has no blades (0) or at least 3.',
    (v) => v === 0 || v! > 2,
  ),
  shiftX: finite('Shift across', -1, 1),
  shiftY: finite('Shift up', -1, 1),
  shutter: finite('Shutter angle', 0, 720),
});

export const setSchema = shape({
  version: whole('Version', 3, 3),
  name: name('Set name'),
  products: list(
    'Products in the set',
    shape({
      id: id('Id'),
      name: name('Product name'),
      product: id('Product'),
      variant: text('Variant', 64),
      standsOn: text('Stands on', 64),
      scale: finite('Scale', 0.001, 1000),
      ...held,
      position: point('Position'),
      turn: finite('Turn', -1e6, 1e6),
      tilt: finite('Tilt', -1e6, 1e6),
      roll: finite('Roll', -1e6, 1e6),
      seated: flag('Seated'),
      visible: flag('Visible'),
      seenBy,
    }),
    500,
  ),
  surfaces: yup
    .array()
    .of(surface as unknown as yup.AnySchema)
    .strict()
    .defined('Surfaces is missing.')
    .max(50, 'Surfaces holds more than 50 entries.'),
  lights: list('Lights', lightSchema, 200),
  environment: shape({
    id: oneOf('Id', ['environment']),
    intensity: finite('Room light', 0, 100000),
    rotation: finite('Room rotation', -1e6, 1e6),
    seen: flag('Room seen'),
    room: shape({
      kind: oneOf('Room', ROOM_KINDS),
      asset: text('Panorama', 64).matches(/^([0-9a-f]{64})?$/, 'Panorama is not the name of a stored file.'),
      boxes: list(
        'Drawn softboxes',
        shape({
          id: id('Id'),
          azimuth: finite('Softbox round', -720, 720),
          elevation: finite('Softbox height', -90, 90),
          width: finite('Softbox width', 1, 360),
          height: finite('Softbox height', 1, 180),
          brightness: finite('Softbox brightness', 0, 10000),
          kelvin: finite('Softbox colour', 1000, 25000),
          softness: share('Softbox softness'),
        }),
        60,
      ),
    }),
  }),
  cameras: list('Cameras', camera, 50).test(
    'some',
    'A set needs at least one camera.',
    (v) => (v as unknown[])?.length > 0,
  ),
  view: oneOf('View', VIEW_TRANSFORMS),
});
