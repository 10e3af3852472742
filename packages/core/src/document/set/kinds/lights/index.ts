import { disc } from './disc.ts';
import type { LightShape, LightShapeKind } from './light-shape.ts';
import { point } from './point.ts';
import { softbox } from './softbox.ts';
import { sphere } from './sphere.ts';
import { spot } from './spot.ts';
import { sun } from './sun.ts';

export * from './light-shape.ts';

/** Every shape of light. */
export const LIGHT_SHAPE_KINDS: Record<LightShape, LightShapeKind> = { softbox, disc, sphere, spot, point, sun };
