import type { Title } from '@tender-orbit/core/document';
import { openTitlePainter } from './title-painter.ts';

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

self.onmessage = ({ data }: MessageEvent<TitleRequest>) => {
  turn = turn
    .then(() => draw(data))
    .catch(() => self.postMessage({ key: data.key, pictures: [] } satisfies TitleReply));
};
