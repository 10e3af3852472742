import CanvasKitInit from 'canvaskit-wasm';
import canvasKitUrl from 'canvaskit-wasm/bin/canvaskit.wasm?url';
import type { PromoDocument } from '@tender-orbit/core/document';
import { fitPicture, type Picture } from '@tender-orbit/core/picture';
import { assemble, TITLE_FONTS, TitlePainter, takeFrameAt } from '@tender-orbit/core/promo';
import { frameUrl } from '../api/types.ts';

/** Assembles promo pictures off the main thread, with the functions that the encoder uses. */
export type PreviewRequest =
  { kind: 'promo'; promo: PromoDocument; takeLengths: Record<string, number> } | { kind: 'frame'; frame: number };

export interface PreviewReply {
  frame: number;
  width: number;
  height: number;
  pixels: ArrayBuffer;
  /** True when the take's frame could not be had, so that the picture shows black instead. */
  missing: boolean;
}

/** Fitted pictures kept, in bytes; about two seconds of HD. */
const KEEP_BYTES = 256 * 1024 * 1024;
/** Frames fetched ahead of the one that was asked for. */
const AHEAD = 12;

let promo: PromoDocument | null = null;
let takeLengths: Record<string, number> = {};
let wanted = -1;
let working = false;
const pictures = new Map<string, Promise<Picture | null>>();
const painter = openPainter();

async function openPainter(): Promise<TitlePainter> {
  const init = CanvasKitInit as unknown as (options: { locateFile: () => string }) => ReturnType<typeof CanvasKitInit>;
  const ck = await init({ locateFile: () => canvasKitUrl });
  const fonts = new Map<string, ArrayBuffer>();
  await Promise.all(
    TITLE_FONTS.flatMap((f) => f.files).map(async (file) => {
      const response = await fetch(`/api/fonts/${file}`);
      if (response.ok) fonts.set(file, await response.arrayBuffer());
    }),
  );
  return new TitlePainter(ck, fonts);
}

async function readFrame(take: string, frame: number, width: number, height: number): Promise<Picture | null> {
  const response = await fetch(frameUrl(take, frame));
  if (!response.ok) return null;
  const bitmap = await createImageBitmap(await response.blob(), {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  });
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const picture = { width: bitmap.width, height: bitmap.height, data };
  bitmap.close();
  return fitPicture(picture, width, height);
}

/** The fitted picture under a promo frame; kept, least recently used goes first. */
function pictureAt(frame: number): Promise<Picture | null> | null {
  const source = promo && takeFrameAt(promo, frame, (take) => takeLengths[take] ?? 0);
  if (!promo || !source) return null;
  const { width, height } = promo;
  const key = `${source.take} ${source.frame} ${width} ${height}`;
  const known = pictures.get(key);
  const picture = known ?? readFrame(source.take, source.frame, width, height).catch(() => null);
  pictures.delete(key);
  pictures.set(key, picture);
  const most = Math.max(8, Math.floor(KEEP_BYTES / (width * height * 4)));
  for (const old of pictures.keys()) {
    if (pictures.size <= most) break;
    pictures.delete(old);
  }
  // A frame that is not there yet may be there later.
  if (!known) void picture.then((p) => p ?? pictures.delete(key));
  return picture;
}

async function work(): Promise<void> {
  if (working) return;
  working = true;
  while (wanted >= 0 && promo) {
    const frame = wanted;
    const current = promo;
    wanted = -1;
    const source = pictureAt(frame);
    const picture = source ? await source : null;
    const made = assemble(current, frame, picture, await painter);
    const reply: PreviewReply = {
      frame,
      width: made.width,
      height: made.height,
      pixels: made.data.buffer as ArrayBuffer,
      missing: source !== null && picture === null,
    };
    self.postMessage(reply, { transfer: [reply.pixels] });
    for (let n = 1; n <= AHEAD && wanted < 0; n++) await pictureAt(frame + n);
  }
  working = false;
}

self.onmessage = (event: MessageEvent<PreviewRequest>) => {
  const request = event.data;
  if (request.kind === 'promo') {
    promo = request.promo;
    takeLengths = request.takeLengths;
  } else {
    wanted = request.frame;
    void work();
  }
};
