import { cos, pow } from '../maths/index.ts';
import type { TableauLight } from './tableau.ts';

type Sized = Pick<TableauLight, 'width' | 'height'>;

/** What a kind of light is as a thing that gives light: its geometry, for everything that measures, packs or draws it. */
export interface Emitter {
  /** Shines from one side of a flat face. */
  flat: boolean;
  /** So far away that its rays are parallel. */
  distant: boolean;
  /** Surface that gives light, m2; 1 for what has none. */
  area: (light: Sized) => number;
  /** The same as seen from straight ahead: luminous intensity is luminance times this. */
  projectedArea: (light: Sized) => number;
  /** Half its width and height in metres; null for what has no face to frame. */
  half: (light: Sized) => [number, number] | null;
  /** Radius in metres of what reaches equally far in all directions; null for faces. */
  radius: (light: Sized) => number | null;
  /** Illuminance in lux by luminance 1 at a squared distance in metres, facing it; null for faces: they need the angle. */
  illuminance: (light: TableauLight, square: number) => number | null;
}

const disc = ({ width }: Sized): number => Math.PI * pow(width / 2, 2);
const one = (): number => 1;
const none = (): null => null;
const halves = ({ width, height }: Sized): [number, number] => [width / 2, height / 2];

/** Every kind of light in a tableau. */
export const EMITTERS: Record<TableauLight['kind'], Emitter> = {
  rect: {
    ...{ flat: true, distant: false, half: halves, radius: none, illuminance: none },
    area: ({ width, height }) => width * height,
    projectedArea: ({ width, height }) => width * height,
  },
  disc: { flat: true, distant: false, half: halves, radius: none, illuminance: none, area: disc, projectedArea: disc },
  sphere: {
    ...{ flat: false, distant: false, half: halves },
    radius: ({ width }) => width / 2,
    illuminance: (light, square) => disc(light) / Math.max(square, pow(light.width / 2, 2)),
    area: (light) => 4 * disc(light),
    projectedArea: disc,
  },
  point: {
    ...{ flat: false, distant: false, half: none, area: one, projectedArea: one },
    radius: () => 0,
    illuminance: (_, square) => 1 / square,
  },
  sun: {
    ...{ flat: false, distant: true, half: none, area: one, projectedArea: one, radius: none },
    illuminance: ({ angle = 0 }) => 2 * Math.PI * (1 - cos(angle / 2)),
  },
};
