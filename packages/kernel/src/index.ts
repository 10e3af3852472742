/** The compiled tracing kernel, instantiated with a memory of its own, as core's KernelTracer takes it. */
export interface Kernel {
  memory: WebAssembly.Memory;
  exports: WebAssembly.Exports;
}

/** Pages of 64 KiB that every instance starts with; the build's --initialMemory says the same. */
const INITIAL_PAGES = 16;
const MAXIMUM_PAGES = 65536;

export function instantiateKernel(module: WebAssembly.Module): Kernel {
  const memory = new WebAssembly.Memory({ initial: INITIAL_PAGES, maximum: MAXIMUM_PAGES });
  const abort = (): never => {
    throw new Error('The tracing kernel stopped.');
  };
  const { exports } = new WebAssembly.Instance(module, { env: { memory, abort } });
  return { memory, exports };
}
