import { composeTake } from '@tender-orbit/core/composite';
import type { TakeComposite } from '@tender-orbit/core/document';
import { textDrawer } from '@tender-orbit/core/promo';
import type { FrameRate } from '@tender-orbit/core/time';
import { openPlates } from './open-plates.ts';
import { TakePictures } from './take-pictures.ts';
import { openTitlePainter } from './title-painter.ts';

/** Composes frames of a shot off the main thread; of requests that wait the last one counts. */
export interface CompositeRequest {
  id: number;
  take: string;
  composite: TakeComposite;
  frame: number;
  rate: FrameRate;
  /** Pixels across; 0: the take's own. */
  width: number;
}

export interface CompositeReply {
  id: number;
  frame: number;
  /** Null when the take's frame is not there. */
  picture: { width: number; height: number; pixels: ArrayBuffer } | null;
  milliseconds: number;
}

const pictures = Promise.all([openPlates(), openTitlePainter()]).then(
  ([plates, painter]) => new TakePictures(plates, textDrawer(painter)),
);
let wanted: CompositeRequest | null = null;
let working = false;

async function work(): Promise<void> {
  if (working) return;
  working = true;
  while (wanted) {
    const { id, take, composite, frame, rate, width } = wanted;
    wanted = null;
    const reader = await pictures;
    await reader.light(take, frame, composite.view);
    const started = performance.now();
    const made = await composeTake(take, composite, frame, rate, reader, width);
    const milliseconds = performance.now() - started;
    const picture = made && {
      ...{ width: made.width, height: made.height },
      pixels: made.data.buffer as ArrayBuffer,
    };
    const reply: CompositeReply = { id, frame, picture, milliseconds };
    self.postMessage(reply, { transfer: picture ? [picture.pixels] : [] });
  }
  working = false;
}

self.onmessage = ({ data }: MessageEvent<CompositeRequest>) => {
  wanted = data;
  void work();
};
