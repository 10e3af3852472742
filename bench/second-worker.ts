import { second } from './second.ts';

/** A run of frames of it, into memory that threads share. */
export interface SecondTask {
  from: number;
  to: number;
  into: Uint8Array<SharedArrayBuffer>;
}

let made: ReturnType<typeof second> | null = null;

/** Makes frames as a thread of a delivery does. */
export default async function makeFrames({ from, to, into }: SecondTask): Promise<void> {
  const { frame } = await (made ??= second());
  for (let n = from, at = 0; n < to; n++) {
    const { data } = frame(n);
    into.set(data, at);
    at += data.length;
  }
}
