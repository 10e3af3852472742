import type { NumberProperty } from '../../../../properties/index.ts';
import type { FieldGroup } from '../../kind.ts';

export const LIGHT_SHAPES = ['softbox', 'disc', 'sphere', 'spot', 'point', 'sun'] as const;
export type LightShape = (typeof LIGHT_SHAPES)[number];

/** What a shape of light makes of the properties that all lights have. */
export interface LightShapeKind {
  /** The trade's name, as lists and choices show it. */
  label: string;
  /** Whether it shines from a face, which takes a honeycomb grid and gobos. */
  face: boolean;
  properties: Partial<Record<'width' | 'height' | 'lumens' | 'beamAngle', NumberProperty>>;
  groups: readonly FieldGroup[];
}
