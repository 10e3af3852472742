import { shallowReactive } from 'vue';
import { pictureKey, type PictureSource } from '@tender-orbit/core/finish';
import type { Panorama } from '@tender-orbit/core/light';
import type { Mesh } from '@tender-orbit/core/geometry';
import type { Room } from '@tender-orbit/core/document';
import type { ModelReply, ModelRequest, RoomLight } from '../workers/model-worker.ts';

export interface LoadedModel {
  meshes: Mesh[];
  images: ImageBitmap[];
}

/** Models and art by key, read once in a worker; asking for one that is not there yet starts reading it. */
const models = shallowReactive(new Map<string, LoadedModel>());
const pictures = shallowReactive(new Map<string, ImageBitmap>());
const panoramas = shallowReactive(new Map<string, Panorama>());
const rooms = shallowReactive(new Map<string, RoomLight>());
const asked = new Set<string>();
/** Built models and rooms kept: a number that is dragged makes one at every step. */
const KEEP = 40;
let worker: Worker | null = null;

/** A model by its modelKey(). */
export function modelOf(key: string): LoadedModel | undefined {
  const model = models.get(key);
  if (!model) ask(key, { kind: 'model', key });
  return model;
}

/** The bitmap of a picture of art. */
export function pictureOf(source: PictureSource): ImageBitmap | undefined {
  const key = pictureKey(source);
  const picture = pictures.get(key);
  // Documents are proxies to Vue, which cannot be posted as they are.
  if (!picture) ask(key, { kind: 'picture', source: JSON.parse(JSON.stringify(source)) as PictureSource });
  return picture;
}

/** A panorama file by its hash. */
export function panoramaFile(hash: string): Panorama | undefined {
  const panorama = panoramas.get(hash);
  if (!panorama) ask(hash, { kind: 'panorama', key: hash });
  return panorama;
}

/** What surfaces are lit by and mirror of a room. */
export function roomOf(room: Room): RoomLight | undefined {
  const key = JSON.stringify([room.kind, room.boxes, room.asset]);
  const light = rooms.get(key);
  if (!light) ask(key, { kind: 'room', key, room: JSON.parse(JSON.stringify(room)) as Room });
  return light;
}

function ask(key: string, request: ModelRequest): void {
  if (asked.has(key)) return;
  asked.add(key);
  worker ??= startWorker();
  worker.postMessage(request);
}

function startWorker(): Worker {
  const started = new Worker(new URL('../workers/model-worker.ts', import.meta.url), { type: 'module' });
  started.onmessage = (event: MessageEvent<ModelReply>) => {
    const { kind, key, meshes, images, panorama, room } = event.data;
    if (kind === 'model' && meshes && images) {
      models.set(key, { meshes, images });
      forgetOldest(models);
    } else if (kind === 'picture' && images) pictures.set(key, images[0]);
    else if (kind === 'panorama' && panorama) panoramas.set(key, panorama);
    else if (kind === 'room' && room) {
      rooms.set(key, room);
      forgetOldest(rooms);
    }
    // What could not be fetched is asked for again when it is next drawn.
    else asked.delete(key);
  };
  return started;
}

function forgetOldest(kept: Map<string, unknown>): void {
  const [oldest] = kept.keys();
  if (kept.size <= KEEP) return;
  kept.delete(oldest);
  asked.delete(oldest);
}
