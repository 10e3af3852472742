import type { LightShapeKind } from './light-shape.ts';

export const softbox: LightShapeKind = {
  label: 'Softbox',
  face: true,
  properties: {},
  groups: [{ title: 'Size', paths: ['width', 'height', 'gridAngle'] }],
};
