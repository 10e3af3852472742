import { instantiateKernel } from '@tender-orbit/kernel';
import { helpTrace, type KernelInstance, type Share } from '@tender-orbit/core/trace';

/** First the memory that the trace worker's kernel works on, then pictures to help with. */
export type HelperRequest = { module: WebAssembly.Module; memory: WebAssembly.Memory } | Share;

let instance: KernelInstance | null = null;

self.onmessage = ({ data }: MessageEvent<HelperRequest>) => {
  if ('module' in data) instance = instantiateKernel(data.module, data.memory) as KernelInstance;
  else helpTrace(instance!, data);
  self.postMessage(null);
};
