import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { writeModel, type Model } from '@tender-orbit/core/interchange';
import { writeWav } from '@tender-orbit/core/audio';
import { ArtRoom, HONEYS, type Honey } from './art.ts';
import type { DemoTake } from './campaign.ts';
import { makeDipper } from './dipper.ts';
import { makeGiftBox } from './gift-box.ts';
import { makeJar } from './jar.ts';
import { makeMusic, MUSIC } from './music.ts';
import { makeSmoker } from './smoker.ts';

export { dressJar, type StoredArt } from './jar-variants.ts';
export { HONEYS, type Honey } from './art.ts';
export { demoSet } from './demo-set.ts';
export { DEMO_TAKES, demoCampaign, heroShot, lidShot, TAKE_SETTINGS, type DemoTake } from './campaign.ts';
export { revealShot } from './reveal.ts';
export { demoPromo } from './promo.ts';
export { MUSIC };

/** Who the demo is shown to; a made-up person. */
export const DEMO_PERSON = { email: 'mara@vellowmere.example', name: 'Mara Vell', password: 'slow-as-the-hill' };

export interface DemoModel {
  key: 'jar' | 'dipper' | 'box' | 'smoker';
  name: string;
  fileName: string;
  glb: Uint8Array;
}

/** The demo's models, made by code. */
export async function makeModels(): Promise<DemoModel[]> {
  const art = await ArtRoom.open();
  const make = async (key: DemoModel['key'], name: string, fileName: string, model: Model): Promise<DemoModel> => ({
    key,
    name,
    fileName,
    glb: await writeModel(model),
  });
  return [
    await make('jar', 'Heather jar', 'heather-jar.glb', makeJar(art.label())),
    await make('box', 'Gift box', 'gift-box.glb', makeGiftBox(art.boxFront())),
    await make('dipper', 'Dipper', 'dipper.glb', makeDipper(art.wood())),
    { key: 'smoker', name: 'Smoker', fileName: 'smoker.glb', glb: await makeSmoker() },
  ];
}

/** The labels of the honeys as PNG files. */
export async function makeLabels(): Promise<Record<Honey, Uint8Array>> {
  const art = await ArtRoom.open();
  const kinds = Object.keys(HONEYS) as Honey[];
  return Object.fromEntries(kinds.map((kind) => [kind, art.label(kind).bytes])) as Record<Honey, Uint8Array>;
}

/** The demo's music as a 16-bit wav file. */
export function makeMusicFile(): Uint8Array {
  return writeWav(makeMusic());
}

/** Folder of the frames that the product itself rendered for the demo's takes. */
export const TAKES_FOLDER = fileURLToPath(new URL('../data/takes/', import.meta.url));

/** A rendered frame of a demo take, or null when it has not been rendered. */
export function takeFrame(take: DemoTake, frame: number): Uint8Array | null {
  const path = `${TAKES_FOLDER}${take}/${String(frame).padStart(5, '0')}.webp`;
  return existsSync(path) ? readFileSync(path) : null;
}

/** Folder of the frames that the product itself simulated of the demo's smoke, at its coarse level, and of their keys. */
export const SMOKE_FOLDER = fileURLToPath(new URL('../data/smoke/', import.meta.url));

/** The demo's smoke as it ships: each frame by the key that it has in a store, from frame 1 on; empty when it has not been simulated. */
export function demoSmoke(): Array<[key: string, bytes: Uint8Array]> {
  const list = `${SMOKE_FOLDER}keys.json`;
  if (!existsSync(list)) return [];
  const keys = JSON.parse(readFileSync(list, 'utf8')) as string[];
  return keys.map((key, n) => [key, readFileSync(`${SMOKE_FOLDER}${String(n + 1).padStart(5, '0')}.frame`)]);
}

/** Where things are in a frame of a demo take, and what they hide: a small frame of light without its light, packed; null where there is none. */
export function takeDepths(take: DemoTake, frame: number): Uint8Array | null {
  const path = `${TAKES_FOLDER}${take}/${String(frame).padStart(5, '0')}.depth`;
  return existsSync(path) ? readFileSync(path) : null;
}
export { studies, type Study } from './studies.ts';
export { compositeOf } from './composites.ts';
