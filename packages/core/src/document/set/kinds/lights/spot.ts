import { length } from '../../../../properties/index.ts';
import type { LightShapeKind } from './light-shape.ts';

export const spot: LightShapeKind = {
  label: 'Spot',
  face: true,
  properties: { width: length('Diameter', 0.005, 20) },
  groups: [{ title: 'Beam', paths: ['beamAngle', 'softness', 'width'] }],
};
