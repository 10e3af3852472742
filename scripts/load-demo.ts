import { inflateSync } from 'node:zlib';
import sharp from 'sharp';
import { importModel, productOf } from '@tender-orbit/core/interchange';
import {
  compositeOf,
  DEMO_PERSON,
  dressJar,
  makeLabels,
  type Honey,
  type StoredArt,
  demoCampaign,
  demoSmoke,
  demoPromo,
  demoSet,
  DEMO_TAKES,
  type DemoTake,
  heroShot,
  lidShot,
  makeModels,
  makeMusicFile,
  MUSIC,
  revealShot,
  TAKE_SETTINGS,
  takeFrame,
  takeDepths,
} from '@tender-orbit/demo';
import { addPerson, DocumentRepository, SimulationStore, type AppContext } from '@tender-orbit/server';
import { lightOfPicture, readLight, type FrameDepths, type LightFrame } from '@tender-orbit/core/composite';
import type {
  ProductDocument,
  PromoDocument,
  ShotDocument,
  TakeComposite,
  TakeSnapshot,
  ViewTransform,
} from '@tender-orbit/core/document';

/** Makes the demo person and campaign when nobody is in the database yet. Returns whether it did. */
export async function loadDemo(ctx: AppContext): Promise<boolean> {
  if (await ctx.db.one('SELECT id FROM people LIMIT 1')) return false;
  const documents = new DocumentRepository(ctx.db, ctx.assets);
  const person = await addPerson(ctx.db, DEMO_PERSON.email, DEMO_PERSON.name, DEMO_PERSON.password);
  const campaign = await documents.create('campaign', person.id, demoCampaign(), 'Load demo', person.id, 'demo');
  const products: Record<string, ProductDocument> = {};
  for (const { key, name, fileName, glb } of await makeModels()) {
    const source = (await ctx.assets.put(glb, person.id)).hash;
    const imported = await importModel(fileName, glb, {}, { draco: null, meshopt: null });
    const { animations } = imported.report;
    // A file that moves is kept beside the model that is made of it, as when a person brings it.
    const model = animations.length > 0 ? (await ctx.assets.put(imported.glb, person.id)).hash : source;
    const origin = animations.length > 0 ? { files: [], animations, pose: null } : undefined;
    const plain = { ...productOf(name, { fileName, source, model, unit: 'm', origin }, imported.model), name };
    const product = key === 'jar' ? dressJar(plain, await storeLabels(ctx, person.id)) : plain;
    await documents.create('product', campaign.id, product, 'Load demo', person.id, `demo-${key}`);
    products[`demo-${key}`] = product;
  }
  const set = demoSet({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' });
  await documents.create('set', campaign.id, set, 'Load demo', person.id, 'demo-set');
  const shots: Record<DemoTake, ShotDocument> = {
    hero: heroShot('demo-set'),
    lid: lidShot('demo-set'),
    reveal: revealShot('demo-set'),
  };
  for (const key of DEMO_TAKES) {
    const finished = { ...shots[key], ...compositeOf(key, shots[key]) };
    await documents.create('shot', campaign.id, finished, 'Load demo', person.id, `demo-${key}`);
    await loadTake(ctx, campaign.id, person.id, key, {
      set,
      shot: shots[key],
      products,
      ...TAKE_SETTINGS[key],
    });
  }
  await loadSmoke(ctx, campaign.id, person.id, { set, shot: shots.reveal, products, ...TAKE_SETTINGS.reveal });
  const music = await ctx.assets.put(makeMusicFile(), person.id);
  const promo = demoPromo(
    { hero: 'take-hero', lid: 'take-lid', reveal: 'take-reveal' },
    { asset: music.hash, name: `${MUSIC.name}.wav`, tempo: MUSIC.tempo },
  );
  await documents.create('promo', campaign.id, promo, 'Load demo', person.id, 'demo-promo');
  const ofTakes = <T>(make: (key: DemoTake) => T): Record<string, T> =>
    Object.fromEntries(DEMO_TAKES.map((key) => [`take-${key}`, make(key)]));
  await queueDelivery(
    ctx,
    campaign.id,
    promo,
    ofTakes((key) => shots[key].length),
    ofTakes((key): TakeComposite => ({ shot: { ...shots[key], ...compositeOf(key, shots[key]) }, view: set.view })),
  );
  return true;
}

/** Label art in the asset store. */
async function storeLabels(ctx: AppContext, person: string): Promise<Record<Honey, StoredArt>> {
  const labels = await makeLabels();
  const stored = await Promise.all(
    Object.entries(labels).map(async ([kind, bytes]) => {
      const { width, height } = await sharp(bytes).metadata();
      return [kind, { asset: (await ctx.assets.put(bytes, person)).hash, width, height }] as const;
    }),
  );
  return Object.fromEntries(stored) as Record<Honey, StoredArt>;
}

/** The finished promo as a file; the server encodes it when it starts, so that it is this machine's own work. */
async function queueDelivery(
  ctx: AppContext,
  campaign: string,
  promo: PromoDocument,
  takeLengths: Record<string, number>,
  composites: Record<string, TakeComposite>,
): Promise<void> {
  const snapshot = JSON.stringify({ promo, frameRate: demoCampaign().frameRate, takeLengths, composites });
  await ctx.db.transaction(async (statements) => {
    await statements.run(
      "INSERT INTO deliveries (id, campaign_id, promo_id, name, format, snapshot) VALUES ('demo-delivery', ?, 'demo-promo', ?, 'mp4', ?)",
      [campaign, promo.name, snapshot],
    );
    await ctx.jobs.add(statements, [{ queue: 'encode', kind: 'delivery', campaign, subject: 'demo-delivery' }]);
  });
}

/** The light of a frame that ships as a picture, with where things are in it at a smaller size. */
async function lightOfDemo(bytes: Uint8Array, packed: Uint8Array, view: ViewTransform): Promise<LightFrame> {
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const small = readLight(new Uint8Array(inflateSync(packed)));
  const light = lightOfPicture({ width, height, data: new Uint8ClampedArray(data) }, view);
  const { depth, ids, covers, finishes, tint, motion, ...known } = small.depths!;
  const sizes: Sizes = [small, { width, height }];
  const depths: FrameDepths = {
    ...known,
    depth: nearest(depth, 1, sizes),
    ids: nearest(ids, 2, sizes),
    covers: nearest(covers, 2, sizes),
  };
  if (finishes)
    depths.finishes = {
      names: finishes.names,
      ids: nearest(finishes.ids, 2, sizes),
      covers: nearest(finishes.covers, 2, sizes),
    };
  // A pixel at an edge here is two there: they are to go along with what they are the edge of.
  if (motion) depths.motion = nearest(ofNearest(motion, depth, small), 2, sizes);
  if (tint) depths.tint = await smoothly(tint, 3, 3, sizes);
  return { ...light, matte: await smoothly(small.matte, 1, 1, sizes), depths };
}

interface Size {
  width: number;
  height: number;
}
type Sizes = readonly [Size, Size];

/** Numbers of a picture in more pixels, between them. @param most that a number can be. */
async function smoothly(
  numbers: Float32Array,
  channels: 1 | 3,
  most: number,
  [from, to]: Sizes,
): Promise<Float32Array> {
  const bytes = Buffer.from(Uint8Array.from(numbers, (v) => Math.round((v / most) * 255)));
  const larger = await sharp(bytes, { raw: { width: from.width, height: from.height, channels } })
    .resize(to.width, to.height, { kernel: 'cubic' })
    .toColourspace(channels === 1 ? 'b-w' : 'srgb')
    .raw()
    .toBuffer();
  return Float32Array.from(larger, (v) => (v / 255) * most);
}

/** Motion as the nearest thing about each pixel has it. */
function ofNearest(motion: Float32Array, depth: Float32Array, { width, height }: Size): Float32Array {
  const out = new Float32Array(motion.length);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      let best = i;
      for (let k = Math.max(0, y - 1); k <= Math.min(height - 1, y + 1); k++)
        for (let j = Math.max(0, x - 1); j <= Math.min(width - 1, x + 1); j++) {
          const at = k * width + j;
          if (depth[at] > 0 && (depth[best] <= 0 || depth[at] < depth[best])) best = at;
        }
      out.set(motion.subarray(best * 2, best * 2 + 2), i * 2);
    }
  return out;
}

/** Numbers of a picture in more pixels, those of the nearest one: between two surfaces there is none. */
function nearest<T extends Float32Array | Uint8Array>(numbers: T, stride: number, [from, to]: Sizes): T {
  const Numbers = numbers.constructor as new (length: number) => T;
  const larger = new Numbers(to.width * to.height * stride);
  for (let y = 0, at = 0; y < to.height; y++)
    for (let x = 0; x < to.width; x++) {
      const pixel = Math.floor((y * from.height) / to.height) * from.width + Math.floor((x * from.width) / to.width);
      for (let k = 0; k < stride; k++) larger[at++] = numbers[pixel * stride + k];
    }
  return larger;
}

/** A take whose frames ship with the demo; frames that are missing are left to be rendered. */
async function loadTake(
  ctx: AppContext,
  campaign: string,
  person: string,
  key: DemoTake,
  snapshot: TakeSnapshot,
): Promise<void> {
  const { shot } = snapshot;
  const frames = Array.from({ length: shot.length }, (_, frame) => takeFrame(key, frame));
  const id = `take-${key}`;
  for (const [frame, bytes] of frames.entries()) {
    if (!bytes) continue;
    await ctx.frames.write(id, frame, bytes);
    const depths = takeDepths(key, frame);
    if (depths) await ctx.frames.writeLight(id, frame, await lightOfDemo(bytes, depths, snapshot.set.view));
  }
  await ctx.frameQueue.add(campaign, `demo-${key}`, snapshot, person, { id, name: `${shot.name} take 1` });
  await ctx.frameQueue.markRendered(
    id,
    frames.flatMap((bytes, frame) => (bytes ? [frame] : [])),
  );
}

/** The smoke of its shot at the coarse level, which ships with the demo: it is there as soon as the shot is opened. */
async function loadSmoke(ctx: AppContext, campaign: string, person: string, snapshot: TakeSnapshot): Promise<void> {
  const frames = demoSmoke();
  if (frames.length === 0) return;
  const store = new SimulationStore(ctx.config.files);
  for (const [key, bytes] of frames) await store.writeStored(key, bytes);
  const [effect] = snapshot.set.effects;
  const coarse = { ...snapshot, set: { ...snapshot.set, effects: [{ ...effect, level: 'coarse' as const }] } };
  const asked = { shot: 'demo-reveal', effect: effect.id, level: 'coarse' as const };
  const id = await ctx.runs.add(campaign, asked, coarse, person);
  await ctx.runs.markDone(
    id,
    frames.map(([key]) => key),
  );
}
