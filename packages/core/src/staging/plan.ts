import { hypot } from '../maths/index.ts';
import { horizontalFov } from '../camera/index.ts';
import type {
  Point,
  ProductDocument,
  SetCamera,
  SetDocument,
  SetEffect,
  SetLight,
  SetNull,
  SetProduct,
  SetSurface,
} from '../document/index.ts';

/** What a thing looks like from above; metres, degrees. */
export type PlanOutline =
  | { kind: 'product'; radius: number }
  | { kind: 'body'; width: number; depth: number; turn: number; round: boolean }
  | { kind: 'bar'; width: number }
  | { kind: 'wall'; width: number; depth: number }
  | { kind: 'lamp'; mark: string }
  | { kind: 'camera' }
  | { kind: 'null' }
  | { kind: 'domain'; width: number; depth: number };

/** A thing on the orbit plan. */
export interface PlanMark {
  id: string;
  name: string;
  outline: PlanOutline;
  position: Point;
  aim: Point;
  on: boolean;
  /** Half of the opening of its wedge, radians; 0 for none. */
  half: number;
  /** Bears its name and can be raised on the elevation arc. */
  raised: boolean;
}

type Drawn = Omit<PlanMark, 'id' | 'name'>;
/** A product that has not been loaded is drawn this large, metres. */
const UNKNOWN = 0.03;
/** Opening of a light that nothing narrows, radians. */
const OPEN = 0.32;
const MIDDLE: Point = [0, 0, 0];
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

const SURFACES: { [K in SetSurface['kind']]: (surface: Extract<SetSurface, { kind: K }>) => Drawn | null } = {
  sweep: ({ visible, width, depth }) => ({
    ...{ position: MIDDLE, aim: MIDDLE, on: visible, half: 0, raised: false },
    outline: { kind: 'wall', width, depth },
  }),
  card: ({ position, aim, visible, width }) => ({
    ...{ position, aim, on: visible, half: 0, raised: true },
    outline: { kind: 'bar', width },
  }),
  block: ({ form, position, visible, width, depth, turn }) => {
    if (form === 'floor') return null;
    const round = form === 'drum';
    return {
      ...{ position, aim: position, on: visible, half: 0, raised: false },
      outline: { kind: 'body', width, depth: round ? width : Math.max(depth, 0.01), turn, round },
    };
  },
};

function drawProduct(item: SetProduct, document: ProductDocument | undefined): Drawn {
  const radius = document ? (Math.max(document.extent[0], document.extent[2]) * document.scale) / 2 : UNKNOWN;
  return {
    ...{ position: item.position, aim: item.position, on: true, half: 0, raised: false },
    outline: { kind: 'product', radius: radius * item.scale },
  };
}

function drawLight({ position, aim, on, shape, beamAngle, gridAngle, mark }: SetLight): Drawn {
  const narrowed = gridAngle > 0 ? radians(gridAngle) : OPEN;
  const half = shape === 'spot' ? radians(beamAngle / 2) : narrowed;
  return { position, aim, on, half, raised: true, outline: { kind: 'lamp', mark } };
}

function drawCamera({ position, aim, focalLength, sensorWidth }: SetCamera): Drawn {
  const half = horizontalFov(focalLength, sensorWidth) / 2;
  return { position, aim, on: true, half, raised: true, outline: { kind: 'camera' } };
}

function drawEffect({ position, visible, width, depth }: SetEffect): Drawn {
  return {
    ...{ position, aim: position, on: visible, half: 0, raised: false },
    outline: { kind: 'domain', width, depth },
  };
}

function drawNull({ position }: SetNull): Drawn {
  return { position, aim: position, on: true, half: 0, raised: true, outline: { kind: 'null' } };
}

const known = new WeakMap<object, { by: object | undefined; mark: PlanMark | null }>();

/** The mark of a thing: the same object while the thing, and what it is drawn `by`, are the same. */
function kept<T extends { id: string; name: string }>(
  thing: T,
  by: object | undefined,
  draw: (thing: T) => Drawn | null,
): PlanMark | null {
  const before = known.get(thing);
  if (before && before.by === by) return before.mark;
  const drawn = draw(thing);
  const mark = drawn && { id: thing.id, name: thing.name, ...drawn };
  known.set(thing, { by, mark });
  return mark;
}

/**
 * The set from above, as the orbit plan draws it: sweeps first, then products, lights, cards, bodies and cameras.
 * Documents must not be changed in place: what stays the same object keeps its mark.
 * @param cameras ids of those that are wanted. @param products documents of the campaign by id.
 */
export function planOf(
  set: SetDocument,
  products: ReadonlyMap<string, ProductDocument>,
  cameras: ReadonlySet<string>,
): PlanMark[] {
  const marked = <T extends { id: string; name: string }>(
    things: readonly T[],
    draw: (thing: T) => Drawn | null,
    by: (thing: T) => object | undefined = () => undefined,
  ): PlanMark[] => things.flatMap((thing) => kept(thing, by(thing), draw) ?? []);
  const surfaces = marked(set.surfaces, (surface) =>
    (SURFACES[surface.kind] as (surface: SetSurface) => Drawn | null)(surface),
  );
  const of = (kind: PlanOutline['kind']): PlanMark[] => surfaces.filter(({ outline }) => outline.kind === kind);
  return [
    ...of('wall'),
    ...marked(set.effects, drawEffect),
    ...marked(
      set.products.filter((p) => p.visible),
      (item) => drawProduct(item, products.get(item.product)),
      ({ product }) => products.get(product),
    ),
    ...marked(set.lights, drawLight),
    ...of('bar'),
    ...of('body'),
    ...marked(
      set.cameras.filter(({ id }) => cameras.has(id)),
      drawCamera,
    ),
    ...marked(set.nulls, drawNull),
  ];
}

/** How far the plan reaches, metres: past what stands furthest off, rounded up so that it does not twitch in a drag. */
export function planReach(marks: readonly PlanMark[]): number {
  const far = marks.filter((m) => m.raised).map(({ position }) => hypot(position[0], position[2]));
  return Math.ceil(Math.max(0.3, ...far) * 1.12 * 10) / 10;
}
