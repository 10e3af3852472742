import * as yup from 'yup';
import { Problem } from '../problem/index.ts';
import type { DocumentKind, DocumentKinds } from './types.ts';
import { productSchema } from './validate-product.ts';
import { cardSchema, lightSchema, setSchema } from './validate-set.ts';
import { finite, hash, hex, id, list, name, oneOf, point, shape, text, whole } from './fields.ts';
import { migrate } from './migrate.ts';

const version = whole('Version', 1, 1);
/** Video with subsampled colour has no odd sizes. */
const even = (label: string): yup.AnySchema =>
  whole(label, 64, 4096).test('even', `${label} must be an even number.`, (v) => v! % 2 === 0);
const pictureSize = { width: even('Picture width'), height: even('Picture height') };

const kit = shape({
  id: id('Id'),
  name: name('Kit name'),
  lights: list('Lights of a kit', lightSchema, 200),
  cards: list('Cards of a kit', cardSchema, 50),
  room: finite('Room light', 0, 100000),
  centre: point('Middle'),
  radius: finite('Size', 1e-4, 1000),
  cameraTurn: finite('Camera direction', -1e6, 1e6),
});

const campaign = shape({
  version: whole('Version', 2, 2),
  kits: list('Light kits', kit, 100),
  name: name('Campaign name'),
  client: text('Client', 120),
  message: text('Message', 4000),
  notes: text('Notes', 4000),
  frameRate: shape({ num: whole('Frame rate', 1, 240000), den: whole('Frame rate', 1, 1001) }),
  ...pictureSize,
});

const shot = shape({
  version,
  name: name('Shot name'),
  set: id('Set'),
  camera: id('Camera'),
  length: whole('Length', 1, 100000),
  seed: whole('Seed', 0, 0xffffffff),
  tracks: list(
    'Tracks',
    shape({
      thing: id('Thing'),
      path: text('Property', 64).matches(/^[A-Za-z]+(\.[A-Za-z0-9]+)?$/, 'Property is not a number of a thing.'),
      keys: list(
        'Keys',
        shape({
          frame: finite('Frame of a key', -100000, 200000),
          value: finite('Value of a key', -1e6, 1e6),
          ease: oneOf('Ease', ['eased', 'linear', 'hold']),
        }),
        10000,
      ),
    }),
    1000,
  ),
});

const arrival = shape({
  kind: oneOf('Arrival', ['none', 'fade', 'rise', 'slide']),
  frames: whole('Arrival length', 0, 1000),
});

const promo = shape({
  version,
  name: name('Promo name'),
  ...pictureSize,
  clips: list(
    'Clips',
    shape({
      id: id('Id'),
      take: text('Take', 64),
      start: whole('First frame', 0, 100000),
      length: whole('Length', 1, 100000),
    }),
    500,
  ),
  titles: list(
    'Titles',
    shape({
      id: id('Id'),
      text: text('Title text', 2000),
      font: text('Font', 64),
      size: finite('Size', 4, 2000),
      tracking: finite('Tracking', -0.5, 5),
      colour: hex('Colour'),
      x: finite('Across', -1, 2),
      y: finite('Down', -1, 2),
      align: oneOf('Align', ['left', 'centre', 'right']),
      start: whole('First frame', 0, 100000),
      length: whole('Length', 1, 100000),
      arrive: arrival,
      leave: arrival,
    }),
    200,
  ),
  music: shape({
    asset: hash('Music file'),
    name: text('Music name', 255),
    trim: finite('Trim', 0, 36000),
    gain: finite('Gain', -60, 24),
    fadeIn: finite('Fade in', 0, 600),
    fadeOut: finite('Fade out', 0, 600),
    tempo: finite('Tempo', 0, 400),
    firstBeat: finite('First beat', -60, 3600),
  }).nullable(),
});

const SCHEMAS: Record<DocumentKind, yup.AnySchema> = { campaign, product: productSchema, set: setSchema, shot, promo };

/**
 * Brings `input` to the current version and checks it.
 * @throws Problem `document/invalid` with the first thing wrong, by the name a person knows the field under.
 */
export function validateDocument<K extends DocumentKind>(kind: K, input: unknown): DocumentKinds[K] {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) {
    throw new Problem('document/invalid', `The ${kind} is not a document.`, kind);
  }
  try {
    return SCHEMAS[kind].validateSync(migrate(kind, input as Record<string, unknown>), {
      strict: true,
      abortEarly: true,
    }) as DocumentKinds[K];
  } catch (error) {
    if (error instanceof yup.ValidationError)
      throw new Problem('document/invalid', error.errors[0], error.path || kind);
    throw error;
  }
}
