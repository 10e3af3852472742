import pictureUrl from '@tender-orbit/kernel/picture.wasm?url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { Plates, type PictureKernel } from '@tender-orbit/core/composite';

/** Plates in the memory of a picture kernel of this worker's own. */
export async function openPlates(): Promise<Plates> {
  const module = await WebAssembly.compileStreaming(fetch(pictureUrl));
  return new Plates(instantiateKernel(module) as unknown as PictureKernel);
}
