import * as yup from 'yup';
import { finite, flag, list, name, oneOf, numbers, shape, share, text } from './fields.ts';

/** A product body made from numbers, for a product without a model file. Lengths in metres. */
export type Builder = CartonBuilder | TurnedBuilder | DeviceBuilder | PouchBuilder | CutoutBuilder;
export const BUILDER_KINDS = ['carton', 'turned', 'device', 'pouch', 'cutout'] as const;
export type BuilderKind = (typeof BUILDER_KINDS)[number];

export interface CartonBuilder {
  kind: 'carton';
  width: number;
  height: number;
  depth: number;
  board: number;
  bevel: number;
  /** Degrees that the lid is open. */
  open: number;
}

export const CAPS = ['none', 'lid', 'cork'] as const;

/** A body turned round its axis. */
export interface TurnedBuilder {
  kind: 'turned';
  /** The outer side from the middle of the base to the lip: [radius, height, fillet radius]. */
  profile: Array<[number, number, number]>;
  /** Thickness of the wall; 0 is solid. */
  wall: number;
  /** How full of liquid it is, 0..1 of the inside; only when it has a wall. */
  fill: number;
  cap: { kind: (typeof CAPS)[number]; height: number };
  /** A label round the body between two heights, over so many degrees; none when `shown` is false. */
  band: { shown: boolean; from: number; to: number; degrees: number };
}

/** A card or screen device: a slab with rounded corners and a picture area on its front. */
export interface DeviceBuilder {
  kind: 'device';
  width: number;
  height: number;
  depth: number;
  corner: number;
  bevel: number;
  /** From the edge to the picture area; 0 covers the whole front. */
  border: number;
}

export interface PouchBuilder {
  kind: 'pouch';
  width: number;
  height: number;
  thickness: number;
  seal: number;
  standing: boolean;
}

/** Letters or a logo given depth. */
export interface CutoutBuilder {
  kind: 'cutout';
  /** What the outlines say or come from. */
  label: string;
  /** Outlines at height 1, y up: pairs of numbers, each outline closed; inner ones cut holes. */
  outlines: number[][];
  height: number;
  depth: number;
  bevel: number;
}

const length = (label: string, max = 5): yup.AnySchema => finite(label, 0, max);
const side = (label: string): yup.AnySchema => finite(label, 0.001, 5);

const KINDS: Record<BuilderKind, yup.AnySchema> = {
  carton: shape({
    kind: oneOf('Builder', ['carton']),
    width: side('Width'),
    height: side('Height'),
    depth: side('Depth'),
    board: finite('Board', 0.0001, 0.05),
    bevel: length('Fold radius', 1),
    open: finite('Lid open', 0, 250),
  }),
  turned: shape({
    kind: oneOf('Builder', ['turned']),
    profile: list('Profile', numbers('Profile point', 3, -1, 5), 400).test(
      'two',
      'A profile needs at least two points.',
      (v) => (v as unknown[])?.length > 1,
    ),
    wall: length('Wall', 0.5),
    fill: share('Fill level'),
    cap: shape({ kind: oneOf('Cap', CAPS), height: length('Cap height', 1) }),
    band: shape({
      shown: flag('Label band'),
      from: length('Band from'),
      to: length('Band to'),
      degrees: finite('Band round', 1, 360),
    }),
  }),
  device: shape({
    kind: oneOf('Builder', ['device']),
    width: side('Width'),
    height: side('Height'),
    depth: finite('Depth', 0.0002, 1),
    corner: length('Corner radius', 1),
    bevel: length('Edge radius', 0.5),
    border: length('Border', 1),
  }),
  pouch: shape({
    kind: oneOf('Builder', ['pouch']),
    width: side('Width'),
    height: side('Height'),
    thickness: finite('Filled thickness', 0.0005, 2),
    seal: length('Seal', 0.5),
    standing: flag('Stands up'),
  }),
  cutout: shape({
    kind: oneOf('Builder', ['cutout']),
    label: name('Words or file'),
    outlines: list('Outlines', numbersOfOutline(), 2000),
    height: side('Height'),
    depth: finite('Depth', 0.0002, 2),
    bevel: length('Edge radius', 0.5),
  }),
};

function numbersOfOutline(): yup.AnySchema {
  return yup
    .array()
    .of(finite('Outline point', -1000, 1000) as yup.AnySchema)
    .strict()
    .defined()
    .min(6, 'An outline needs at least three points.')
    .max(20000, 'An outline has more than 10000 points: simplify the artwork.');
}

/** Null when the product comes from a model file. */
export const builderSchema = yup.lazy((value: { kind?: string } | null | undefined) =>
  value === null ? text('Builder', 0).nullable() : (KINDS[value?.kind as BuilderKind] ?? KINDS.carton),
);
