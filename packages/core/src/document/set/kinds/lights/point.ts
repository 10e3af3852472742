import type { LightShapeKind } from './light-shape.ts';

export const point: LightShapeKind = { label: 'Bare point', face: false, properties: {}, groups: [] };
