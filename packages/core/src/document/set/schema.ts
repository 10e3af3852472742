import { byKind, list, name, oneOf, shape, versionOf } from '../fields.ts';
import { block, camera, card, effectSchema, environment, light, setNull, setProduct, sweep } from './kinds/index.ts';
import { VIEW_TRANSFORMS, type SetDocument, type SetSurface } from './types.ts';

const surface = byKind<SetSurface>('Kind', { sweep: sweep.schema, card: card.schema, block: block.schema });

export const setSchema = shape<SetDocument>({
  version: versionOf(9),
  name: name('Set name'),
  products: list('Products in the set', setProduct.schema, 500),
  surfaces: list('Surfaces', surface, 300),
  lights: list('Lights', light.schema, 200),
  environment: environment.schema,
  cameras: list('Cameras', camera.schema, 50, 1, 'A set needs at least one camera.'),
  effects: list('Effects', effectSchema, 50),
  nulls: list('Nulls', setNull.schema, 200),
  view: oneOf('View', VIEW_TRANSFORMS),
});
