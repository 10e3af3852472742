/** The compiled tracing kernel on a memory, as core's KernelTracer takes it. */
export interface Kernel {
  memory: WebAssembly.Memory;
  exports: WebAssembly.Exports;
}

/** Pages of 64 KiB that every instance starts with; the build's --initialMemory says the same. */
const INITIAL_PAGES = 16;
const MAXIMUM_PAGES = 65536;

/**
 * An instance of the kernel. Threads that work together each have one on the same shared memory.
 * @param module of trace.wasm; of trace-shared.wasm for a shared memory: the two are not interchangeable.
 * @param memory to work on; a new unshared one when left out.
 */
export function instantiateKernel(
  module: WebAssembly.Module,
  memory = new WebAssembly.Memory({ initial: INITIAL_PAGES, maximum: MAXIMUM_PAGES }),
): Kernel {
  const abort = (): never => {
    throw new Error('The tracing kernel stopped.');
  };
  const { exports } = new WebAssembly.Instance(module, { env: { memory, abort } });
  return { memory, exports };
}

/** A memory that several threads' instances can work on. */
export function sharedMemory(): WebAssembly.Memory {
  return new WebAssembly.Memory({ initial: INITIAL_PAGES, maximum: MAXIMUM_PAGES, shared: true });
}
