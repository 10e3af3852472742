import { composeTake, PictureCache, StackCache } from '@tender-orbit/core/composite';
import type { TakeComposite } from '@tender-orbit/core/document';
import { layerTexts, textDrawer } from '@tender-orbit/core/promo';
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
  /** 0: it was made before. */
  milliseconds: number;
}

const titles = openTitlePainter();
const pictures = Promise.all([openPlates(), titles]).then(
  ([plates, painter]) => new TakePictures(plates, textDrawer(painter), new StackCache()),
);
/** Pictures that were made lately, in bytes: about two seconds of them at half size are gone back and forth through at once. */
const made = new PictureCache(128 * 1024 * 1024);
let wanted: CompositeRequest | null = null;
let working = false;

async function work(): Promise<void> {
  if (working) return;
  working = true;
  while (wanted) {
    const { id, take, composite, frame, rate, width } = wanted;
    wanted = null;
    const reader = await pictures;
    const shots = [composite, ...Object.values(composite.others ?? {})];
    await (await titles).need(layerTexts(shots.flatMap(({ shot }) => shot.layers)));
    await reader.light(take, frame, composite.view);
    const started = performance.now();
    const key = JSON.stringify([take, composite, frame, rate, width]);
    let milliseconds = 0;
    const { missed } = reader;
    const shown = await made.get(key, async () => {
      const picture = await composeTake(take, composite, frame, rate, reader, width);
      milliseconds = performance.now() - started;
      return picture;
    });
    // What was not there yet may be there when it is asked for again.
    if (reader.missed !== missed) made.forget(key);
    // The kept one stays: a copy goes out.
    const picture = shown && {
      ...{ width: shown.width, height: shown.height },
      pixels: shown.data.slice().buffer as ArrayBuffer,
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
