import type { Finish } from '../../../finish/index.ts';
import { colour, share, toggle } from '../../../properties/index.ts';
import type { Item } from '../../common.ts';
import { finishSchema } from '../../finish-schema.ts';
import { field, item, orNull, type Field } from '../../fields.ts';
import { arrangedFields, RAY_VISIBILITY, rayVisibilitySchema, type Arranged, type RayVisibility } from '../parts.ts';

/** What all surfaces have: a look, and who sees them. */
export interface SurfaceLook extends Item, Arranged {
  /** sRGB hex. */
  colour: string;
  roughness: number;
  /** A whole finish in the place of colour and roughness; null for those. */
  finish: Finish | null;
  visible: boolean;
  rayVisibility: RayVisibility;
}

export const SURFACE_LOOK = {
  colour: colour('Colour'),
  roughness: share('Roughness'),
  visible: toggle('Visible'),
  ...RAY_VISIBILITY,
} as const;

export const LOOK_GROUP = { title: 'Look', paths: ['roughness'] };

export const surfaceFields: { [K in keyof SurfaceLook]-?: Field<SurfaceLook[K]> } = {
  ...item('Surface name'),
  ...arrangedFields,
  colour: field(SURFACE_LOOK.colour),
  roughness: field(SURFACE_LOOK.roughness),
  finish: orNull(finishSchema),
  visible: field(SURFACE_LOOK.visible),
  rayVisibility: rayVisibilitySchema,
};
