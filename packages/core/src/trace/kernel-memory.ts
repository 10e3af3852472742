import type { KernelInstance } from './kernel-exports.ts';

const PAGE = 65536;
/** The module keeps nothing of its own below this address. */
export const BASE = 65536;
const ALIGN = 64;

type Numbers = Float32Array | Float64Array | Int32Array | Uint32Array | Uint16Array | Uint8Array;

/** A stack of reservations in a kernel's memory. */
export class KernelMemory {
  top = BASE;

  constructor(private readonly memory: KernelInstance['memory']) {}

  get buffer(): ArrayBufferLike {
    return this.memory.buffer;
  }

  reserve(bytes: number): number {
    const address = this.top;
    this.top = address + Math.ceil(bytes / ALIGN) * ALIGN;
    const missing = Math.ceil((this.top - this.memory.buffer.byteLength) / PAGE);
    if (missing > 0) this.memory.grow(missing);
    return address;
  }

  store(array: Numbers): number {
    const address = this.reserve(array.byteLength);
    this.write(address, array);
    return address;
  }

  write(address: number, array: Numbers): void {
    new Uint8Array(this.memory.buffer, address, array.byteLength).set(
      new Uint8Array(array.buffer, array.byteOffset, array.byteLength),
    );
  }

  /** A copy of floats in memory. */
  floats(address: number, count: number): Float32Array<ArrayBuffer> {
    const out = new Float32Array(count);
    out.set(new Float32Array(this.memory.buffer, address, count));
    return out;
  }

  /** Writes named words; those in `floats` as f32. */
  words(address: number, names: readonly string[], values: Record<string, number>, floats: readonly string[]): void {
    const view = new DataView(this.memory.buffer, address, names.length * 4);
    names.forEach((name, i) => {
      const value = values[name] ?? 0;
      if (floats.includes(name)) view.setFloat32(i * 4, value, true);
      else view.setUint32(i * 4, value, true);
    });
  }
}
