import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { KernelTracer, type PackedScene } from '@tender-orbit/core/trace';

/** The compiled kernel holding a scene, as a render thread has it. */
export function kernelWith(scene: PackedScene): KernelTracer {
  const path = fileURLToPath(import.meta.resolve('@tender-orbit/kernel/trace.wasm'));
  return new KernelTracer(instantiateKernel(new WebAssembly.Module(readFileSync(path)))).load(scene);
}
