import type { SetProduct, ShotDocument, Track } from '../../document/index.ts';
import { Problem } from '../../problem/index.ts';
import { brokenProduct, type BreakSettings, type BrokenProduct } from '../../product/index.ts';
import type { EvaluateContext, ShotProgram } from '../../scene/index.ts';
import { framesToSeconds, type FrameRate } from '../../time/index.ts';
import type { BodyEngine, BodySettings } from './body.ts';
import { bodiesOf } from './bodies-of.ts';
import { piecesOnSet, pieceTracks } from './piece-keys.ts';
import { runBodies } from './run-bodies.ts';
import { struckBodies, strikePoint, struckPlace, type Strike } from './strike.ts';

/** How a product on a set breaks. */
export interface ShatterSettings extends Omit<BreakSettings, 'near' | 'seed'>, Strike {
  /** The frame at which it is struck. */
  frame: number;
  /** Share of its speed that a piece keeps as it bounces, and Coulomb's coefficient. */
  bounce: number;
  friction: number;
  rate: FrameRate;
}

/** What came of it: the product in pieces, where it stands on the set, and its keys; what shows it needs the id that its product gets. */
export interface Shattered {
  broken: BrokenProduct;
  thing: SetProduct;
  tracks: Track[];
  /** The frame at which all pieces rest. */
  rests: number;
}

/** What a piece does otherwise than what falls in as a whole. */
const STRUCK = {
  ...{ way: 'struck' as const, height: 0, stagger: 0, spread: 0, tumble: 0, away: 0, direction: 0, flight: 0 },
  ...{ frequency: 1, damping: 0, home: 0 },
} satisfies Partial<BodySettings>;

/**
 * Breaks a product of a set by a strike at a frame and lets the pieces fall: they are seen in place of the whole one from then on. They begin
 * with the motion it has, so what falls and is struck as it lands goes on.
 * @param engine started. @param whole what breaks, on the set. @param id of the product in pieces on the set.
 * @throws Problem `product/break` when it cannot be seen then or nothing of it can break.
 */
export function shatter(
  engine: BodyEngine,
  program: ShotProgram,
  context: EvaluateContext,
  whole: SetProduct,
  id: string,
  shot: Pick<ShotDocument, 'length' | 'tracks'>,
  settings: ShatterSettings,
): Shattered {
  const product = context.products.get(whole.product);
  const { frame, bounce, friction, rate, ...strike } = settings;
  const place = struckPlace(program, frame, context, whole.id);
  if (!product || !place)
    throw new Problem(
      'product/break',
      `"${whole.name}" is not seen at frame ${frame + 1}: strike it when it is, or take back what broke it before.`,
      whole.name,
    );
  const near = strikePoint(strike, place);
  const broken = brokenProduct(product, place.meshes, { ...settings, near });
  const seconds = framesToSeconds(1, rate);
  const bodies = struckBodies(broken, place, strike, near, seconds);
  const { still } = bodiesOf(program, frame, context, [whole.id]);
  const values: BodySettings = { ...STRUCK, bounce, friction, seed: strike.seed, rate };
  const motion = runBodies(engine, bodies, still, { ...values, most: Math.max(1, shot.length - frame) });
  const metres = product.scale;
  return {
    broken,
    thing: piecesOnSet(whole, id, broken.product.name, place, metres),
    tracks: pieceTracks(motion, broken, place, { whole: whole.id, broken: id, frame, metres }, shot),
    rests: frame + motion.rests,
  };
}
