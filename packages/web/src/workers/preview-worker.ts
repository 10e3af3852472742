import { composeTake, layersOver } from '@tender-orbit/core/composite';
import type { PromoDocument, TakeComposite } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import {
  assemble,
  frameKey,
  promoLength,
  promoTexts,
  scaledPromo,
  shownAt,
  sourceLength,
  takeFramesAt,
  textDrawer,
  type TakeFrame,
} from '@tender-orbit/core/promo';
import type { FrameRate } from '@tender-orbit/core/time';
import { frameUrl } from '../api/types.ts';
import { openPlates } from './open-plates.ts';
import { readPicture, TakePictures } from './take-pictures.ts';
import { openTitlePainter } from './title-painter.ts';

/** Assembles promo pictures off the main thread, with the functions that the encoder uses. */
export type PreviewRequest =
  | {
      kind: 'promo';
      /** Comes back with the pictures that are made of it. */
      version: number;
      promo: PromoDocument;
      takeLengths: Record<string, number>;
      /** Shots with a composite, by take. */
      composites: Record<string, TakeComposite>;
      /** Composites that layers of the promo show, by take. */
      shown: Record<string, TakeComposite>;
      /** Other cuts that it shows, by their ids. */
      cuts: Record<string, PromoDocument>;
      rate: FrameRate;
    }
  | { kind: 'frame'; frame: number; mode: PreviewMode };

/**
 * `plain`: takes without the composites of their shots, so that a picture is there at once. `quick`: composites are made small. `whole`: as
 * the file has it. `kept`: only what is in memory, while it plays.
 */
export type PreviewMode = 'plain' | 'quick' | 'whole' | 'kept';

/** Which frames of the promo as it is now are in memory. */
export interface PreviewReady {
  ready: boolean[];
}

export interface PreviewReply {
  /** Of the promo that it is a picture of. */
  version: number;
  frame: number;
  mode: PreviewMode;
  /** Whether it is the picture as the file has it. */
  whole: boolean;
  width: number;
  height: number;
  pixels: ArrayBuffer;
  /** True when the take's frame could not be had, so that the picture shows black instead. */
  missing: boolean;
}

/** Pictures kept, in bytes; about two seconds of HD. */
const KEEP_BYTES = 128 * 1024 * 1024;
/** Assembled frames that are kept, in bytes. */
const KEEP_FRAMES = 192 * 1024 * 1024;
/** Frames made ahead of one that was asked for whole, while nothing else is. */
const AHEAD = 36;
/** How often it is told which frames are there, ms. */
const TOLD = 300;

let promo: PromoDocument | null = null;
let version = 0;
let takeLengths: Record<string, number> = {};
let wanted: { frame: number; mode: PreviewMode } | null = null;
/** Pixels across of composites that are made small: as many as are there in time, by what the last ones took. */
let quickWidth = 320;
/** And of all that is shown at once. */
let plainWidth = 640;
const IN_TIME = 80;
const [LEAST, MOST] = [160, 960];
let working = false;
let composites: Record<string, TakeComposite> = {};
let shownComposites: Record<string, TakeComposite> = {};
let cuts: Record<string, PromoDocument> = {};
let rate: FrameRate = { num: 24, den: 1 };
/** Pictures that clips show. */
const kept = new Map<string, Promise<Picture | null>>();
const painter = openTitlePainter();
const pictures = Promise.all([openPlates(), painter]).then(
  ([plates, ready]) => new TakePictures(plates, textDrawer(ready)),
);

let reader: TakePictures | null = null;
void pictures.then((ready) => (reader = ready));
/** How often something that composites and layers show was not there: pictures with such a gap are not kept. */
const missed = (): number => reader?.missed ?? 0;

/** What a clip or an overlay shows: a frame of footage, or the take's frame, with the composite of its shot where that has one. */
async function readFrame(
  cut: PromoDocument,
  { take, frame }: TakeFrame,
  width: number,
  plain: boolean,
): Promise<Picture | null> {
  const footage = cut.footage.find((f) => f.id === take);
  if (footage) return (await pictures).film(footage.list, frame);
  const composite = plain ? undefined : composites[take];
  return composite
    ? composeTake(take, composite, frame, rate, await pictures, width)
    : readPicture(frameUrl(take, frame));
}

/** The picture of a take's frame; kept, least recently used goes first. */
function pictureOf(part: TakeFrame, cut: PromoDocument, mode: PreviewMode): Promise<Picture | null> {
  const { take, frame } = part;
  const { width, height } = cut;
  const plain = mode === 'plain' && composites[take] !== undefined;
  const quick = mode === 'quick';
  // A whole picture that is there serves for a quick one too.
  const small = quick && composites[take] !== undefined && !kept.has(`${take} ${frame} 0`) ? quickWidth : 0;
  const key = `${take} ${frame} ${plain ? 'plain' : small}`;
  const known = kept.get(key);
  const before = missed();
  const picture = known ?? readFrame(cut, part, small, plain).catch(() => null);
  kept.delete(key);
  kept.set(key, picture);
  const most = Math.max(8, Math.floor(KEEP_BYTES / (width * height * 4)));
  for (const old of kept.keys()) {
    if (kept.size <= most) break;
    kept.delete(old);
  }
  // A frame that is not there yet may be there later.
  if (!known) void picture.then((p) => (p && missed() === before) || kept.delete(key));
  return picture;
}

let lengthOf = sourceLength({}, () => 0);

/** The cuts that a frame is made for: what shows itself is not there. */
type Within = readonly PromoDocument[];

/** All pictures that a promo's frame is made of, null for those that are not there, and whether all are as the file has them. */
async function picturesAt(
  shown: PromoDocument,
  frame: number,
  mode: PreviewMode,
  within: Within = [],
): Promise<{ found: Map<string, Picture | null>; whole: boolean }> {
  const found = new Map<string, Picture | null>();
  let whole = true;
  for (const part of takeFramesAt(shown, frame, lengthOf)) {
    const cut = cuts[part.take];
    const key = `${part.take} ${part.frame}`;
    if (cut) {
      const made = within.includes(cut) ? null : await frameOf(cut, part.frame, mode, [...within, cut]);
      found.set(key, made && !made.missing ? made.picture : null);
      whole &&= made?.whole === true;
    } else {
      found.set(key, await pictureOf(part, shown, mode));
      whole &&= composites[part.take] === undefined;
    }
  }
  return { found, whole };
}

/** The width at which a picture would have been there in time, in steps: other sizes are made anew. */
function inTime(width: number, milliseconds: number): number {
  const fits = width * Math.sqrt(IN_TIME / Math.max(1, milliseconds));
  // Small changes are not worth it.
  if (fits > width * 0.8 && fits < width * 1.6) return width;
  return Math.round(Math.min(MOST, Math.max(LEAST, fits)) / 32) * 32;
}

interface MadeFrame {
  picture: Picture;
  whole: boolean;
  missing: boolean;
}

/** Assembled frames by what they are made of, the one that was used last at the end. */
const frames = new Map<string, MadeFrame>();
let told = 0;

/** A frame as it is kept, or made now; null where only what is kept is wanted and it is not. */
async function frameOf(
  current: PromoDocument,
  frame: number,
  mode: PreviewMode,
  within: Within = [],
): Promise<MadeFrame | null> {
  const drawn = mode === 'plain' ? scaledPromo(current, plainWidth) : current;
  const own = frameKey(drawn, frame, lengthOf);
  const key = mode === 'plain' ? `plain ${own}` : own;
  const known = frames.get(key);
  if (mode === 'kept') return known ?? null;
  if (known && (known.whole || mode !== 'whole')) {
    frames.delete(key);
    frames.set(key, known);
    return known;
  }
  const before = missed();
  const all = [composites, shownComposites].flatMap((some) => Object.values(some));
  await (await painter).need(promoTexts(current, all));
  const { found, whole: plain } = await picturesAt(current, frame, mode, within);
  const shown = shownAt(current, frame, lengthOf);
  const picture = (part: TakeFrame): Picture | null => found.get(`${part.take} ${part.frame}`) ?? null;
  const ready = await pictures;
  const layers = await layersOver(drawn, mode === 'plain' ? {} : shownComposites, frame, rate, ready);
  // Without composites any picture is as good as the whole one.
  const bare = Object.keys(shownComposites).length === 0 || mode !== 'plain';
  const whole = mode === 'whole' || (drawn === current && bare && plain);
  const made: MadeFrame = {
    picture: assemble(ready.plates, drawn, frame, shown, picture, await painter, layers, lengthOf),
    ...{ whole, missing: [...found.values()].includes(null) },
  };
  frames.delete(key);
  // What is missing now may be there later.
  if (!made.missing && missed() === before) frames.set(key, made);
  const most = Math.max(2, Math.floor(KEEP_FRAMES / (current.width * current.height * 4)));
  for (const old of frames.keys()) {
    if (frames.size <= most) break;
    frames.delete(old);
  }
  return made;
}

/** Tells which frames are there, not too often. */
function tell(current: PromoDocument, now = false): void {
  if (!now && performance.now() - told < TOLD) return;
  told = performance.now();
  const ready = Array.from({ length: promoLength(current) }, (_, n) => frames.has(frameKey(current, n, lengthOf)));
  self.postMessage({ ready } satisfies PreviewReady);
}

const breathe = (): Promise<void> => new Promise((next) => setTimeout(next));

async function work(): Promise<void> {
  if (working) return;
  working = true;
  while (wanted && promo) {
    const { frame, mode } = wanted;
    const current = promo;
    const of = version;
    wanted = null;
    const started = performance.now();
    const before = frames.size;
    const made = await frameOf(current, frame, mode);
    if (made) {
      const { picture, whole, missing } = made;
      const pixels = picture.data.slice().buffer;
      const reply: PreviewReply = {
        version: of,
        frame,
        mode,
        whole,
        width: picture.width,
        height: picture.height,
        pixels,
        missing,
      };
      self.postMessage(reply, { transfer: [pixels] });
      const took = performance.now() - started;
      if (mode === 'quick' && !whole) quickWidth = inTime(quickWidth, took);
      // What was in memory says nothing.
      if (mode === 'plain' && frames.size !== before) plainWidth = Math.min(current.width, inTime(plainWidth, took));
    }
    await breathe();
    if (mode === 'plain') {
      // Pictures of the frames that come are read ahead.
      for (let n = 1; n <= AHEAD / 3 && !wanted && promo === current && frame + n < promoLength(current); n++)
        await picturesAt(current, frame + n, mode);
    } else if (mode === 'whole') {
      tell(current, frames.size !== before);
      // At rest the frames that come are made.
      for (let n = 1; n <= AHEAD && !wanted && promo === current && frame + n < promoLength(current); n++) {
        await frameOf(current, frame + n, 'quick');
        tell(current);
        await breathe();
      }
      if (!wanted && promo === current) tell(current, true);
    }
  }
  working = false;
}

self.onmessage = (event: MessageEvent<PreviewRequest>) => {
  const request = event.data;
  if (request.kind === 'promo') {
    promo = request.promo;
    version = request.version;
    takeLengths = request.takeLengths;
    rate = request.rate;
    // Another composite or cut is another picture of the same frames.
    const known = JSON.stringify([composites, shownComposites, cuts]);
    if (JSON.stringify([request.composites, request.shown, request.cuts]) !== known) {
      kept.clear();
      frames.clear();
    }
    composites = request.composites;
    shownComposites = request.shown;
    cuts = request.cuts;
    lengthOf = sourceLength(cuts, (take) => takeLengths[take] ?? 0);
  } else {
    wanted = { frame: request.frame, mode: request.mode };
    void work();
  }
};
