import { number, propertiesOf, smallLength } from '../../../properties/index.ts';
import { field, oneOf, shape } from '../../fields.ts';

/** A folding carton of board. */
export interface CartonBuilder {
  kind: 'carton';
  width: number;
  height: number;
  depth: number;
  board: number;
  bevel: number;
  /** Degrees that the lid is open. */
  open: number;
}

export const CARTON_PROPERTIES = propertiesOf<CartonBuilder>()({
  width: smallLength('Width', 0.001, 5, { step: 1 }),
  height: smallLength('Height', 0.001, 5, { step: 1 }),
  depth: smallLength('Depth', 0.001, 5, { step: 1 }),
  board: smallLength('Board', 0.0001, 0.05, { step: 0.1 }),
  bevel: smallLength('Fold radius', 0, 1, { step: 0.1 }),
  open: number('Lid open', 'deg', 0, 250),
});

export const cartonSchema = shape<CartonBuilder>({
  kind: oneOf('Builder', ['carton']),
  width: field(CARTON_PROPERTIES.width),
  height: field(CARTON_PROPERTIES.height),
  depth: field(CARTON_PROPERTIES.depth),
  board: field(CARTON_PROPERTIES.board),
  bevel: field(CARTON_PROPERTIES.bevel),
  open: field(CARTON_PROPERTIES.open),
});
