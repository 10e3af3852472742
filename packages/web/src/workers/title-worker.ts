import type { PromoDocument, Title } from '@tender-orbit/core/document';
import { fitTitles, promoTexts } from '@tender-orbit/core/promo';
import { openTitlePainter } from './title-painter.ts';

/** Titles of a copy of a cut, brought into its picture as they are really set. */
export interface FitRequest {
  key: string;
  before: PromoDocument;
  after: PromoDocument;
}
export interface FitReply {
  key: string;
  titles: Title[];
}

/** Draws titles by themselves, for the gallery. */
export interface TitleRequest {
  key: string;
  title: Title;
  frames: readonly number[];
  width: number;
  height: number;
}
export interface TitleReply {
  key: string;
  /** A picture a frame; null where nothing is seen. */
  pictures: Array<ImageBitmap | null>;
}

const painter = openTitlePainter();
let turn: Promise<void> = Promise.resolve();

async function draw({ key, title, frames, width, height }: TitleRequest): Promise<void> {
  const ready = await painter;
  await ready.need([title]);
  const pictures = await Promise.all(
    frames.map(async (frame) => {
      const drawn = ready.draw(title, frame, width, height);
      if (!drawn) return null;
      const whole = new OffscreenCanvas(width, height);
      const straight = new Uint8ClampedArray(drawn.data);
      for (let i = 0; i < straight.length; i += 4) {
        const alpha = straight[i + 3] / 255;
        if (alpha > 0) for (let c = 0; c < 3; c++) straight[i + c] /= alpha;
      }
      whole.getContext('2d')!.putImageData(new ImageData(straight, drawn.width, drawn.height), drawn.left, drawn.top);
      return whole.transferToImageBitmap();
    }),
  );
  const reply: TitleReply = { key, pictures };
  self.postMessage(reply, { transfer: pictures.filter((p) => p !== null) });
}

async function fit({ key, before, after }: FitRequest): Promise<void> {
  const ready = await painter;
  await ready.need(promoTexts(after, []));
  const titles = fitTitles(before, after, (title, width) => ready.measure(title, width));
  self.postMessage({ key, titles } satisfies FitReply);
}

self.onmessage = ({ data }: MessageEvent<TitleRequest | FitRequest>) => {
  if ('after' in data) {
    void fit(data).catch(() => self.postMessage({ key: data.key, titles: data.after.titles } satisfies FitReply));
    return;
  }
  turn = turn
    .then(() => draw(data))
    .catch(() => self.postMessage({ key: data.key, pictures: [] } satisfies TitleReply));
};
