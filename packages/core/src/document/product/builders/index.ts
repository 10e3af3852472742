import type { Properties } from '../../../properties/index.ts';
import { byKind, orNull } from '../../fields.ts';
import { CARTON_PROPERTIES, cartonSchema, type CartonBuilder } from './carton.ts';
import { CUTOUT_PROPERTIES, cutoutSchema, type CutoutBuilder } from './cutout.ts';
import { DEVICE_PROPERTIES, deviceSchema, type DeviceBuilder } from './device.ts';
import { POUCH_PROPERTIES, pouchSchema, type PouchBuilder } from './pouch.ts';
import { TURNED_PROPERTIES, turnedSchema, type TurnedBuilder } from './turned.ts';

export type { CartonBuilder, CutoutBuilder, DeviceBuilder, PouchBuilder, TurnedBuilder };
export { CAPS } from './turned.ts';

/** A product body made from numbers, for a product without a model file. Lengths in metres. */
export type Builder = CartonBuilder | TurnedBuilder | DeviceBuilder | PouchBuilder | CutoutBuilder;
export type BuilderKind = Builder['kind'];

/** What of a builder's numbers can be keyed and shown in fields. */
export const BUILDER_PROPERTIES: Record<BuilderKind, Properties> = {
  carton: CARTON_PROPERTIES,
  turned: TURNED_PROPERTIES,
  device: DEVICE_PROPERTIES,
  pouch: POUCH_PROPERTIES,
  cutout: CUTOUT_PROPERTIES,
};
export const BUILDER_KINDS = Object.keys(BUILDER_PROPERTIES) as BuilderKind[];

/** Null when the product comes from a model file. */
export const builderSchema = orNull(
  byKind<Builder>('Builder', {
    carton: cartonSchema,
    turned: turnedSchema,
    device: deviceSchema,
    pouch: pouchSchema,
    cutout: cutoutSchema,
  }),
);
