import { choice, count, length, place, propertiesOf, smallLength, turn } from '../../../properties/index.ts';
import type { Point } from '../../common.ts';
import { field, oneOf, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';
import { loose, visibleToAll } from '../parts.ts';
import { LOOK_GROUP, SURFACE_LOOK, surfaceFields, type SurfaceLook } from './surface.ts';

export const BLOCK_FORMS = ['floor', 'wall', 'plinth', 'drum', 'steps', 'tabletop', 'panel'] as const;
export type BlockForm = (typeof BLOCK_FORMS)[number];

/** A body to stand things on or before: its place is the middle of its base. */
export interface BlockSurface extends SurfaceLook {
  kind: 'block';
  form: BlockForm;
  width: number;
  height: number;
  depth: number;
  /** Radius of rounded edges; of a tabletop's corners. */
  bevel: number;
  /** How many steps a flight has. */
  steps: number;
  position: Point;
  turn: number;
}

const PROPERTIES = propertiesOf<BlockSurface>()({
  ...SURFACE_LOOK,
  form: choice('Form', BLOCK_FORMS),
  width: length('Width', 0.005, 100),
  height: length('Height', 0, 100),
  depth: length('Depth', 0, 100),
  bevel: smallLength('Edge', 0, 10),
  steps: count('Steps', 1, 40, { usual: 3 }),
  turn: turn('Turn'),
  position: place('Position', ['Across', 'Height', 'Forward']),
});

/** What does not apply to a form: flat ones have no edge, only a flight has steps. */
const WITHOUT: Record<BlockForm, readonly string[]> = {
  floor: ['bevel', 'steps'],
  wall: ['bevel', 'steps', 'depth'],
  plinth: ['steps'],
  drum: ['steps', 'depth'],
  steps: [],
  tabletop: ['steps'],
  panel: ['steps'],
};

const GROUPS = [
  LOOK_GROUP,
  { title: 'Size', paths: ['width', 'height', 'depth', 'bevel', 'steps'] },
  { title: 'Place', paths: ['turn', 'position'] },
];

export const block: ThingKindOf<BlockSurface> = {
  role: 'surface',
  schema: shape<BlockSurface>({
    ...surfaceFields,
    kind: oneOf('Kind', ['block']),
    form: field(PROPERTIES.form),
    width: field(PROPERTIES.width),
    height: field(PROPERTIES.height),
    depth: field(PROPERTIES.depth),
    bevel: field(PROPERTIES.bevel),
    steps: field(PROPERTIES.steps),
    position: field(PROPERTIES.position),
    turn: field(PROPERTIES.turn),
  }),
  properties: () => PROPERTIES,
  groups: ({ form }) =>
    GROUPS.map(({ title, paths }) => ({ title, paths: paths.filter((path) => !WITHOUT[form].includes(path)) })),
};

const FORMS: Record<
  BlockForm,
  Pick<BlockSurface, 'width' | 'height' | 'depth' | 'bevel'> & { name: string; position: Point }
> = {
  floor: { name: 'Floor', width: 2, height: 0, depth: 2, bevel: 0, position: [0, 0, 0] },
  wall: { name: 'Wall', width: 2, height: 1.4, depth: 0, bevel: 0, position: [0, 0, -0.6] },
  plinth: { name: 'Plinth', width: 0.16, height: 0.08, depth: 0.16, bevel: 0.002, position: [0, 0, 0] },
  drum: { name: 'Round plinth', width: 0.18, height: 0.06, depth: 0.18, bevel: 0.002, position: [0, 0, 0] },
  steps: { name: 'Steps', width: 0.3, height: 0.12, depth: 0.24, bevel: 0.002, position: [0, 0, -0.05] },
  tabletop: { name: 'Tabletop', width: 0.9, height: 0.03, depth: 0.5, bevel: 0.02, position: [0, 0, 0] },
  panel: { name: 'Panel', width: 0.3, height: 0.4, depth: 0.008, bevel: 0.002, position: [-0.2, 0.12, -0.25] },
};

/** A body of a form at a size that suits a small product. */
export function newBlock(id: string, form: BlockForm, values: Partial<BlockSurface> = {}): BlockSurface {
  const { position, ...size } = FORMS[form];
  return {
    ...{ id, kind: 'block', form, ...size, position: [...position], turn: 0, steps: 3 },
    ...{ colour: '#B9AFA6', roughness: 0.6, finish: null, visible: true, rayVisibility: visibleToAll() },
    ...loose(),
    ...values,
  };
}
