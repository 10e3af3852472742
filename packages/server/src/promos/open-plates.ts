import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { Plates, type PictureKernel } from '@tender-orbit/core/composite';

const WASM = fileURLToPath(import.meta.resolve('@tender-orbit/kernel/picture.wasm'));

/** Plates in the memory of a picture kernel of their own. */
export function openPlates(): Plates {
  return new Plates(instantiateKernel(new WebAssembly.Module(readFileSync(WASM))) as unknown as PictureKernel);
}
