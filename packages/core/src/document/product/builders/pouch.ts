import { propertiesOf, smallLength, toggle } from '../../../properties/index.ts';
import { field, oneOf, shape } from '../../fields.ts';

/** A filled bag of film, sealed at its edges. */
export interface PouchBuilder {
  kind: 'pouch';
  width: number;
  height: number;
  thickness: number;
  seal: number;
  standing: boolean;
}

export const POUCH_PROPERTIES = propertiesOf<PouchBuilder>()({
  width: smallLength('Width', 0.001, 5, { step: 1 }),
  height: smallLength('Height', 0.001, 5, { step: 1 }),
  thickness: smallLength('Filled thickness', 0.0005, 2, { step: 1 }),
  seal: smallLength('Seal', 0, 0.5),
  standing: toggle('Stands up'),
});

export const pouchSchema = shape<PouchBuilder>({
  kind: oneOf('Builder', ['pouch']),
  width: field(POUCH_PROPERTIES.width),
  height: field(POUCH_PROPERTIES.height),
  thickness: field(POUCH_PROPERTIES.thickness),
  seal: field(POUCH_PROPERTIES.seal),
  standing: field(POUCH_PROPERTIES.standing),
});
