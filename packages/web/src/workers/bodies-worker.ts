import engine from '@dimforge/rapier3d-simd-compat';
import type { ProductDocument, SetDocument, ShotDocument, Track } from '@tender-orbit/core/document';
import type { Mesh } from '@tender-orbit/core/geometry';
import { modelKey } from '@tender-orbit/core/product';
import { compile } from '@tender-orbit/core/scene';
import {
  bodiesOf,
  bodyTracks,
  hingeAt,
  hingeTracks,
  runBodies,
  type BodyHinge,
  type BodyMotion,
  type BodySettings,
  type HingeSide,
} from '@tender-orbit/core/simulate';
import { readModelByKey } from './read-model.ts';

/** Parts of a product that swing. */
export interface HingeRequest extends Pick<BodyHinge, 'from' | 'to' | 'start'> {
  thing: string;
  parts: readonly number[];
  side: HingeSide;
}

/** Lets products of a set fall and settle. */
export interface BodiesRequest {
  id: number;
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  /** Ids of products on the set, in the order in which they fall. */
  falling: readonly string[];
  hinge: HingeRequest | null;
  settings: BodySettings;
  /** Frame at which all of them rest. */
  restAt: number;
}

export type BodiesReply =
  | { id: number; tracks: Track[]; /** Frames in which they begin to fall and rest. */ start: number; rests: number }
  | { id: number; failed: true };

/** Runs at most, until the beginning is found that lets them rest when they are to, where something else moves meanwhile. */
const TRIES = 3;
/** Frames by which they may rest too early or too late then. */
const NEAR = 2;

const ready = engine.init();

async function fall(data: BodiesRequest): Promise<BodiesReply> {
  const { id, set, shot, products, falling, hinge, settings, restAt } = data;
  await ready;
  const meshes = new Map<string, readonly Mesh[]>();
  for (const product of products.values()) {
    const key = modelKey(product);
    meshes.set(key, (await readModelByKey(key)).meshes);
  }
  const context = { products, aspect: 16 / 9, meshes: (key: string) => meshes.get(key) };
  // They fall to where they stand in the set, whatever moves they had.
  const resting = { ...shot, tracks: shot.tracks.filter((t) => !falling.includes(t.thing)) };
  const program = compile(set, resting);
  let start = Math.max(0, restAt - 24);
  let motion: BodyMotion | undefined;
  for (let n = 0; n < TRIES; n++) {
    const bodies = bodiesOf(program, start, context, falling);
    const body = [...bodies.falling, ...bodies.still].find((b) => b.id === hinge?.thing);
    const swings = hinge && body ? hingeAt(body, hinge.side, hinge.parts, hinge) : undefined;
    const least = shot.length - start;
    motion = runBodies(engine, bodies.falling, bodies.still, { ...settings, least }, swings ? [swings] : []);
    const before = start;
    start = restAt - motion.rests;
    // What does not move cannot tell one beginning from another.
    if (Math.abs(start - before) <= NEAR || bodies.still.every(({ matrixAt }) => !matrixAt)) break;
  }
  const { rests, hinges } = motion!;
  const swung = hinge && hinges.length > 0 ? [{ ...hinge, angles: hinges[0] }] : [];
  const tracks = [...bodyTracks(motion!, start, shot), ...hingeTracks(swung, rests, start, shot)];
  return { id, tracks, start, rests: start + rests };
}

self.onmessage = ({ data }: MessageEvent<BodiesRequest>) => {
  fall(data).then(
    (reply) => self.postMessage(reply),
    () => self.postMessage({ id: data.id, failed: true } satisfies BodiesReply),
  );
};
