import { length } from '../../../../properties/index.ts';
import type { LightShapeKind } from './light-shape.ts';

export const sphere: LightShapeKind = {
  label: 'Ball',
  face: false,
  properties: { width: length('Diameter', 0.0005, 100) },
  groups: [{ title: 'Size', paths: ['width'] }],
};
