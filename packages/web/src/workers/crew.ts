import plainUrl from '@tender-orbit/kernel/trace.wasm?url';
import sharedUrl from '@tender-orbit/kernel/trace-shared.wasm?url';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import {
  KernelTracer,
  type KernelInstance,
  type Passes,
  type TraceJob,
  type TraceOptions,
} from '@tender-orbit/core/trace';
import type { HelperRequest } from './trace-helper.ts';

/** Tiles traced between looking for messages, where there are no helpers. */
const TILES = 2;
const MOST_HELPERS = 8;

/** Traces pictures with all of the machine's threads on one shared memory, or alone where pages may not share memory. */
export class Crew {
  private job: TraceJob | null = null;

  private constructor(
    readonly tracer: KernelTracer,
    private readonly helpers: readonly Worker[],
  ) {}

  static async gather(): Promise<Crew> {
    if (!crossOriginIsolated) {
      const module = await WebAssembly.compileStreaming(fetch(plainUrl));
      return new Crew(new KernelTracer(instantiateKernel(module)), []);
    }
    const module = await WebAssembly.compileStreaming(fetch(sharedUrl));
    const memory = sharedMemory();
    const count = Math.max(1, Math.min(MOST_HELPERS, navigator.hardwareConcurrency));
    const tracer = new KernelTracer(instantiateKernel(module, memory) as KernelInstance, count);
    const helpers = Array.from(
      { length: count },
      () => new Worker(new URL('./trace-helper.ts', import.meta.url), { type: 'module' }),
    );
    await Promise.all(helpers.map((helper) => ask(helper, { module, memory })));
    return new Crew(tracer, helpers);
  }

  /** Gives up the picture under way. */
  cancel(): void {
    this.job?.cancel();
  }

  /** @returns null when `wanted` says no, or the picture was cancelled. */
  async trace(options: TraceOptions, wanted: () => boolean, breath: () => Promise<void>): Promise<Passes | null> {
    const job = this.tracer.begin(options);
    this.job = job;
    if (this.helpers.length > 0) {
      await Promise.all(this.helpers.map((helper, i) => ask(helper, job.share(i))));
    } else {
      while (job.run(TILES)) {
        await breath();
        if (!wanted()) return null;
      }
    }
    return wanted() ? job.finish() : null;
  }
}

function ask(helper: Worker, request: HelperRequest): Promise<unknown> {
  return new Promise((done) => {
    helper.onmessage = done;
    helper.postMessage(request);
  });
}
