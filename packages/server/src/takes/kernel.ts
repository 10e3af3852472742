import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { KernelTracer, type PackedScene } from '@tender-orbit/core/trace';

const WASM = fileURLToPath(import.meta.resolve('@tender-orbit/kernel/trace.wasm'));
let tracer: KernelTracer | null = null;

/** This thread's tracer; the kernel is compiled and given its memory once. */
export function threadTracer(): KernelTracer {
  return (tracer ??= new KernelTracer(instantiateKernel(new WebAssembly.Module(readFileSync(WASM)))));
}

/** This thread's tracer, holding `scene`. */
export function tracerFor(scene: PackedScene): KernelTracer {
  return threadTracer().load(scene);
}
