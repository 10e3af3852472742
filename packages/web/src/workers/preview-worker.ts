import { composeTake } from '@tender-orbit/core/composite';
import type { PromoDocument, TakeComposite } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import { assemble, shownAt, takeFramesAt, textDrawer, type TakeFrame } from '@tender-orbit/core/promo';
import type { FrameRate } from '@tender-orbit/core/time';
import { frameUrl } from '../api/types.ts';
import { openPlates } from './open-plates.ts';
import { readPicture, TakePictures } from './take-pictures.ts';
import { openTitlePainter } from './title-painter.ts';

/** Assembles promo pictures off the main thread, with the functions that the encoder uses. */
export type PreviewRequest =
  | {
      kind: 'promo';
      promo: PromoDocument;
      takeLengths: Record<string, number>;
      /** Shots with a composite, by take. */
      composites: Record<string, TakeComposite>;
      rate: FrameRate;
    }
  | { kind: 'frame'; frame: number };

export interface PreviewReply {
  frame: number;
  width: number;
  height: number;
  pixels: ArrayBuffer;
  /** True when the take's frame could not be had, so that the picture shows black instead. */
  missing: boolean;
}

/** Pictures kept, in bytes; about two seconds of HD. */
const KEEP_BYTES = 256 * 1024 * 1024;
/** Frames fetched ahead of the one that was asked for. */
const AHEAD = 12;

let promo: PromoDocument | null = null;
let takeLengths: Record<string, number> = {};
let wanted = -1;
let working = false;
let composites: Record<string, TakeComposite> = {};
let rate: FrameRate = { num: 24, den: 1 };
/** Pictures that clips show. */
const kept = new Map<string, Promise<Picture | null>>();
const painter = openTitlePainter();
const pictures = Promise.all([openPlates(), painter]).then(
  ([plates, ready]) => new TakePictures(plates, textDrawer(ready)),
);

/** What a clip or an overlay shows: a frame of footage, or the take's frame, with the composite of its shot where that has one. */
async function readFrame(take: string, frame: number): Promise<Picture | null> {
  const footage = promo?.footage.find((f) => f.id === take);
  if (footage) return (await pictures).film(footage.list, frame);
  const composite = composites[take];
  return composite ? composeTake(take, composite, frame, rate, await pictures) : readPicture(frameUrl(take, frame));
}

/** The picture of a take's frame; kept, least recently used goes first. */
function pictureOf({ take, frame }: TakeFrame, { width, height }: PromoDocument): Promise<Picture | null> {
  const key = `${take} ${frame}`;
  const known = kept.get(key);
  const picture = known ?? readFrame(take, frame).catch(() => null);
  kept.delete(key);
  kept.set(key, picture);
  const most = Math.max(8, Math.floor(KEEP_BYTES / (width * height * 4)));
  for (const old of kept.keys()) {
    if (kept.size <= most) break;
    kept.delete(old);
  }
  // A frame that is not there yet may be there later.
  if (!known) void picture.then((p) => p ?? kept.delete(key));
  return picture;
}

const lengthOf = (take: string): number => takeLengths[take] ?? 0;

/** All pictures that a promo's frame is made of, null for those that are not there. */
async function picturesAt(shown: PromoDocument, frame: number): Promise<Map<string, Picture | null>> {
  const found = new Map<string, Picture | null>();
  for (const part of takeFramesAt(shown, frame, lengthOf))
    found.set(`${part.take} ${part.frame}`, await pictureOf(part, shown));
  return found;
}

async function work(): Promise<void> {
  if (working) return;
  working = true;
  const { plates } = await pictures;
  while (wanted >= 0 && promo) {
    const frame = wanted;
    const current = promo;
    wanted = -1;
    const found = await picturesAt(current, frame);
    const shown = shownAt(current, frame, lengthOf);
    const picture = (part: TakeFrame): Picture | null => found.get(`${part.take} ${part.frame}`) ?? null;
    const made = assemble(plates, current, frame, shown, picture, await painter);
    const reply: PreviewReply = {
      frame,
      width: made.width,
      height: made.height,
      pixels: made.data.buffer as ArrayBuffer,
      missing: [...found.values()].includes(null),
    };
    self.postMessage(reply, { transfer: [reply.pixels] });
    for (let n = 1; n <= AHEAD && wanted < 0; n++) await picturesAt(current, frame + n);
  }
  working = false;
}

self.onmessage = (event: MessageEvent<PreviewRequest>) => {
  const request = event.data;
  if (request.kind === 'promo') {
    promo = request.promo;
    takeLengths = request.takeLengths;
    rate = request.rate;
    // Another composite is another picture of the same frames.
    if (JSON.stringify(request.composites) !== JSON.stringify(composites)) kept.clear();
    composites = request.composites;
  } else {
    wanted = request.frame;
    void work();
  }
};
