import { length } from '../../../../properties/index.ts';
import type { LightShapeKind } from './light-shape.ts';

export const spot: LightShapeKind = {
  label: 'Spot',
  face: true,
  properties: { width: length('Diameter', 0.0005, 100) },
  groups: [{ title: 'Beam', paths: ['beamAngle', 'softness', 'width'] }],
};
