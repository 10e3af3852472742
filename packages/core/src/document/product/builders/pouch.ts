import { length, propertiesOf, smallLength, toggle } from '../../../properties/index.ts';
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
  width: length('Width', 0.001, 5),
  height: length('Height', 0.001, 5),
  thickness: length('Filled thickness', 0.0005, 2),
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
