import { FrameMaker, type PromoFiles } from './frame-maker.ts';

/** A run of frames that a thread makes. */
export interface FramesTask {
  /** Of what the frames are of: the same files as the last time with the same id. */
  id: string;
  files: PromoFiles;
  from: number;
  /** The frame after the last. */
  to: number;
  /** Where they go, one after the other, four bytes a pixel. */
  into: Uint8Array<SharedArrayBuffer>;
}

let made: { id: string; maker: FrameMaker } | null = null;

/** Makes frames; what they are made with is kept for the next ones. */
export default async function makeFrames({ id, files, from, to, into }: FramesTask): Promise<void> {
  if (made?.id !== id) {
    made?.maker.dispose();
    made = null;
    made = { id, maker: await FrameMaker.open(files) };
  }
  for (let frame = from, at = 0; frame < to; frame++) {
    const { data } = await made.maker.frame(frame);
    into.set(data, at);
    at += data.length;
  }
}
