import { shallowReactive } from 'vue';
import type { Mesh } from '@tender-orbit/core/geometry';
import type { ModelReply } from '../workers/model-worker.ts';

export interface LoadedModel {
  meshes: Mesh[];
  images: ImageBitmap[];
}

/** Models by hash, read once in a worker; asking for one that is not there yet starts reading it. */
const loaded = shallowReactive(new Map<string, LoadedModel>());
const asked = new Set<string>();
let worker: Worker | null = null;

export function modelOf(hash: string): LoadedModel | undefined {
  const model = loaded.get(hash);
  if (!model && !asked.has(hash)) {
    asked.add(hash);
    worker ??= startWorker();
    worker.postMessage({ hash });
  }
  return model;
}

function startWorker(): Worker {
  const started = new Worker(new URL('../workers/model-worker.ts', import.meta.url), { type: 'module' });
  started.onmessage = (event: MessageEvent<ModelReply>) => {
    const { hash, meshes, images } = event.data;
    if (meshes && images) loaded.set(hash, { meshes, images });
    // A model that could not be fetched is asked for again when it is next drawn.
    else asked.delete(hash);
  };
  return started;
}
