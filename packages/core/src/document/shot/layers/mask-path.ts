import { finite, list, numbers, shape, whole, type Field } from '../../fields.ts';

/** A place in a picture, or a way from one: shares of its height, x to the right, y up. */
export type Spot = [number, number];

/** A corner of a drawn mask. Its handles are relative to it; `feather` is added to the mask's own there. */
export interface MaskPoint {
  at: Spot;
  in: Spot;
  out: Spot;
  feather: number;
}

/** A closed line of cubic Beziers, as it is at a frame. */
export interface MaskShape {
  frame: number;
  points: MaskPoint[];
}

const spot = (label: string): Field<Spot> => numbers<Spot>(label, 2, -20, 20);

const maskPoint: Field<MaskPoint> = shape<MaskPoint>({
  at: spot('Point of a mask'),
  in: spot('Handle of a mask'),
  out: spot('Handle of a mask'),
  feather: finite('Feather of a point', 0, 5),
});

export const maskPathSchema: Field<MaskShape[]> = list(
  'Shapes of a mask',
  shape<MaskShape>({
    frame: whole('Frame of a mask', -100000, 200000),
    points: list('Points of a mask', maskPoint, 200, 3, 'A drawn mask needs three points at least: draw another one.'),
  }),
  200,
);
