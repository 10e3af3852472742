import { place, propertiesOf, reference, share, toggle, turn, type Properties } from '../../../properties/index.ts';
import type { Item, Point } from '../../common.ts';
import { field, id, item, shape, text } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';
import { OWN_PROPERTIES, type OwnValues } from '../own.ts';
import {
  arrangedFields,
  loose,
  RAY_VISIBILITY,
  rayVisibilitySchema,
  visibleToAll,
  type Arranged,
  type RayVisibility,
} from '../parts.ts';

/** A product that stands on a set. */
export interface SetProduct extends Item, Arranged {
  /** Id of the product, and of its variant; empty for its first. */
  product: string;
  variant: string;
  position: Point;
  /** Degrees about the vertical, then about the turned X, then the tilted Z. */
  turn: number;
  tilt: number;
  roll: number;
  /** Times its real size. */
  scale: number;
  /** Id of the surface or product it stands on when seated; empty is the floor. */
  standsOn: string;
  /** When true the lowest point touches what it stands on and position[1] is a lift above it. */
  seated: boolean;
  visible: boolean;
  rayVisibility: RayVisibility;
}

const PROPERTIES = propertiesOf<SetProduct>()({
  turn: turn('Turn'),
  tilt: turn('Tilt'),
  roll: turn('Roll'),
  scale: share('Times', { min: 0.001, max: 1000, usual: 1 }),
  position: place('Place', ['Across', 'Lift', 'Forward']),
  variant: reference('Variant'),
  seated: toggle('Seated'),
  visible: toggle('Visible'),
  ...RAY_VISIBILITY,
});

/** With what of its product can be keyed. */
const KEYED: Properties = { ...PROPERTIES, ...OWN_PROPERTIES };

const GROUPS = [
  { title: 'Turn', paths: ['turn', 'tilt', 'roll'] },
  { title: 'Size', paths: ['scale'] },
  { title: 'Place', paths: ['position'] },
];

export const setProduct: ThingKindOf<SetProduct> = {
  role: 'product',
  schema: shape<SetProduct>({
    ...item('Product name'),
    ...arrangedFields,
    product: id('Product'),
    variant: field(PROPERTIES.variant),
    standsOn: text('Stands on', 64),
    position: field(PROPERTIES.position),
    turn: field(PROPERTIES.turn),
    tilt: field(PROPERTIES.tilt),
    roll: field(PROPERTIES.roll),
    scale: field(PROPERTIES.scale),
    seated: field(PROPERTIES.seated),
    visible: field(PROPERTIES.visible),
    rayVisibility: rayVisibilitySchema,
  }),
  properties: () => KEYED,
  groups: () => GROUPS,
};

/** A product as it is at a frame. */
export interface PosedProduct extends SetProduct {
  /** What of its product is otherwise. */
  own?: OwnValues;
}

/** What a product on a set has besides its name and place: upright, on the floor. */
export function plainItem(): Omit<SetProduct, 'id' | 'name' | 'product' | 'position'> {
  return {
    ...{ ...loose(), variant: '', standsOn: '' },
    ...{ turn: 0, tilt: 0, roll: 0, scale: 1, seated: true, visible: true, rayVisibility: visibleToAll() },
  };
}
