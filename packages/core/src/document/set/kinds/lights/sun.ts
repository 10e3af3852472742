import { number } from '../../../../properties/index.ts';
import type { LightShapeKind } from './light-shape.ts';

export const sun: LightShapeKind = {
  label: 'Sun',
  face: false,
  properties: {
    lumens: number('Power', 'lx', 0, 1e6, { step: 500 }),
    beamAngle: number('Apparent size', 'deg', 0, 175, { step: 0.1, usual: 0.53 }),
  },
  groups: [{ title: 'Size', paths: ['beamAngle'] }],
};
