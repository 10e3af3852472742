import type { Properties } from '../../properties/index.ts';
import type { Field } from '../fields.ts';

/** Fields that stand together in the details of a thing. */
export interface FieldGroup {
  title: string;
  /** Property paths; a place shows its three numbers. */
  paths: readonly string[];
}

/** The lists of a set that things stand in. */
export type ThingList = 'products' | 'surfaces' | 'lights' | 'cameras' | 'effects' | 'nulls';

/** What things are by their job: products, surfaces, lights, the room, cameras, what is simulated, and nulls. */
export type ThingRole = 'product' | 'surface' | 'light' | 'environment' | 'camera' | 'effect' | 'null';

/** All that documents know of a kind of thing. `T` is its document. */
export interface ThingKindOf<T> {
  role: ThingRole;
  schema: Field<T>;
  /** What of this thing can be keyed and shown in fields. */
  properties: (thing: T) => Properties;
  groups: (thing: T) => readonly FieldGroup[];
}
