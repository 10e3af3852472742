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
import { FrameProxies } from './frame-proxies.ts';
import { openPlates } from './open-plates.ts';
import { openFileStore } from './proxy-store.ts';
import { readPicture, TakePictures } from './take-pictures.ts';
import { textStamp } from './text-stamp.ts';
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
 * the file has it. `kept`: only what is in memory, or a proxy of it, while it plays.
 */
export type PreviewMode = 'plain' | 'quick' | 'whole' | 'kept';
/** What a picture is made for: `small` is for a proxy. */
type Making = Exclude<PreviewMode, 'kept'> | 'small';

/** Which frames of the promo as it is now are in memory; some only small, to be played. */
export interface PreviewReady {
  ready: FrameReady[];
}
export type FrameReady = boolean | 'small';

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
/** Proxies of frames that are kept in memory, in bytes, and between visits, in files, and how many pixels across they are: some minutes of film. */
const KEEP_PROXIES = 160 * 1024 * 1024;
const KEEP_FILES = 5000;
const PROXY = 640;
/** Frames that come whose pictures are read ahead. */
const AHEAD = 12;
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
/** What composites of takes are, in short: a picture is known by them. */
let stamps: Record<string, string> = {};
/** And what cuts and composites that layers show are, at what rate, and by which code pictures are made. */
let era = '';
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
  // Only takes of a set know how to be between their frames.
  const whole = Math.round(frame);
  const footage = cut.footage.find((f) => f.id === take);
  if (footage) return (await pictures).film(footage.list, whole);
  const composite = plain ? undefined : composites[take];
  return composite
    ? composeTake(take, composite, frame, rate, await pictures, width)
    : readPicture(frameUrl(take, whole));
}

/** The picture of a take's frame; kept, least recently used goes first. */
function pictureOf(part: TakeFrame, cut: PromoDocument, mode: Making): Promise<Picture | null> {
  const { take, frame } = part;
  const { width, height } = cut;
  const composed = composites[take] !== undefined;
  const known = (size: string | number): string => `${take} ${stamps[take] ?? ''} ${frame} ${size}`;
  const plain = mode === 'plain' && composed;
  // A whole picture that is there serves for a smaller one too.
  const small = composed && (mode === 'quick' || mode === 'small') && !kept.has(known(0));
  const size = small ? (mode === 'small' ? PROXY : quickWidth) : 0;
  const key = known(plain ? 'plain' : size);
  const before = missed();
  const there = kept.get(key);
  const picture = there ?? readFrame(cut, part, size, plain).catch(() => null);
  // A proxy is made once: what it is made of would only drive out what is shown again.
  if (mode === 'small' && !there) return picture;
  kept.delete(key);
  kept.set(key, picture);
  const most = Math.max(8, Math.floor(KEEP_BYTES / (width * height * 4)));
  for (const old of kept.keys()) {
    if (kept.size <= most) break;
    kept.delete(old);
  }
  // A frame that is not there yet may be there later.
  if (!there) void picture.then((p) => (p && missed() === before) || kept.delete(key));
  return picture;
}

let lengthOf = sourceLength({}, () => 0);

/** The cuts that a frame is made for: what shows itself is not there. */
type Within = readonly PromoDocument[];

interface FoundPictures {
  found: Map<string, Picture | null>;
  /** Whether all are as the file has them. */
  whole: boolean;
  /** Whether one of them, or something that one is made of, is not there. */
  missing: boolean;
}

/** All pictures that a promo's frame is made of, null for those that are not there. */
async function picturesAt(
  shown: PromoDocument,
  frame: number,
  mode: Making,
  within: Within = [],
): Promise<FoundPictures> {
  const found = new Map<string, Picture | null>();
  let [whole, missing] = [true, false];
  for (const part of takeFramesAt(shown, frame, lengthOf)) {
    const cut = cuts[part.take];
    let picture: Picture | null = null;
    if (!cut) {
      picture = await pictureOf(part, shown, mode);
      whole &&= composites[part.take] === undefined;
    } else if (!within.includes(cut)) {
      const made = await frameOf(cut, Math.round(part.frame), mode, [...within, cut]);
      picture = made.picture;
      whole &&= made.whole;
      missing ||= made.missing;
    }
    missing ||= picture === null;
    found.set(`${part.take} ${part.frame}`, picture);
  }
  return { found, whole, missing };
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
const proxies = new FrameProxies(KEEP_PROXIES, openFileStore(KEEP_FILES));
let told = 0;

/** What a frame is made of, composites as they are now among it. */
function keyOf(cut: PromoDocument, frame: number): string {
  const all = (): string => Object.values(stamps).join(' ');
  const listOf = (take: string): string => cut.footage.find(({ id }) => id === take)?.list ?? '';
  const parts = takeFramesAt(cut, frame, lengthOf).map(({ take }) =>
    cuts[take] ? all() : (stamps[take] ?? listOf(take)),
  );
  return `${era} ${parts.join(' ')} ${textStamp(frameKey(cut, frame, lengthOf))}`;
}

/** The keys of the promo's own frames: they are asked for often. */
let keys: string[] = [];
const keyAt = (cut: PromoDocument, frame: number): string =>
  cut === promo ? (keys[frame] ??= keyOf(cut, frame)) : keyOf(cut, frame);

/** A frame as it is kept, or made now. */
async function frameOf(current: PromoDocument, frame: number, mode: Making, within: Within = []): Promise<MadeFrame> {
  const width = mode === 'plain' ? plainWidth : mode === 'small' ? PROXY : current.width;
  const drawn = scaledPromo(current, width);
  const key = mode === 'plain' ? `plain ${keyOf(drawn, frame)}` : keyAt(current, frame);
  const known = frames.get(key);
  if (known && (known.whole || mode !== 'whole')) {
    frames.delete(key);
    frames.set(key, known);
    return known;
  }
  const before = missed();
  const all = [composites, shownComposites].flatMap((some) => Object.values(some));
  await (await painter).need(promoTexts(current, all));
  const { found, whole: plain, missing } = await picturesAt(current, frame, mode, within);
  const shown = shownAt(current, frame, lengthOf);
  const picture = (part: TakeFrame): Picture | null => found.get(`${part.take} ${part.frame}`) ?? null;
  const ready = await pictures;
  const layers = await layersOver(drawn, mode === 'plain' ? {} : shownComposites, frame, rate, ready);
  // Without composites any picture is as good as the whole one.
  const bare = Object.keys(shownComposites).length === 0 || mode !== 'plain';
  const whole = mode === 'whole' || (drawn === current && bare && plain);
  const made: MadeFrame = {
    picture: assemble(ready.plates, drawn, frame, shown, picture, await painter, layers, lengthOf),
    ...{ whole, missing },
  };
  frames.delete(key);
  // What is missing now may be there later.
  if (missing || missed() !== before) return made;
  if (mode === 'small') {
    if (current === promo) await proxies.put(key, made.picture, PROXY);
    return made;
  }
  frames.set(key, made);
  const most = Math.max(2, Math.floor(KEEP_FRAMES / (current.width * current.height * 4)));
  for (const old of frames.keys()) {
    if (frames.size <= most) break;
    frames.delete(old);
  }
  return made;
}

/** A frame that is in memory, or its proxy; null when neither is. */
async function keptFrame(current: PromoDocument, frame: number): Promise<MadeFrame | null> {
  const key = keyAt(current, frame);
  const picture = frames.has(key) ? null : await proxies.get(key);
  return picture ? { picture, whole: false, missing: false } : (frames.get(key) ?? null);
}

/** Tells which frames are there, not too often. */
function tell(current: PromoDocument, now = false): void {
  if (!now && performance.now() - told < TOLD) return;
  told = performance.now();
  const ready = Array.from({ length: promoLength(current) }, (_, n): FrameReady => {
    const key = keyAt(current, n);
    return frames.get(key)?.whole === true || ((frames.has(key) || proxies.has(key)) && 'small');
  });
  self.postMessage({ ready } satisfies PreviewReady);
}

const breathe = (): Promise<void> => new Promise((next) => setTimeout(next));

/** Makes proxies of all frames while nothing else is wanted: those that are played next first. */
async function makeProxies(current: PromoDocument, frame: number): Promise<void> {
  const count = promoLength(current);
  const idle = (): boolean => !wanted && promo === current;
  await proxies.ready;
  for (let n = 1; n < count && idle(); n++) {
    const at = (frame + n) % count;
    const key = keyAt(current, at);
    if (frames.has(key) || proxies.has(key)) continue;
    await frameOf(current, at, 'small');
    tell(current);
    await breathe();
  }
  if (idle()) tell(current, true);
}

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
    const made = mode === 'kept' ? await keptFrame(current, frame) : await frameOf(current, frame, mode);
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
      for (let n = 1; n <= AHEAD && !wanted && promo === current && frame + n < promoLength(current); n++)
        await picturesAt(current, frame + n, mode);
    } else if (mode === 'whole') {
      tell(current, frames.size !== before);
      await makeProxies(current, frame);
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
    stamps = Object.fromEntries(
      Object.entries(request.composites).map(([take, composite]) => [take, textStamp(JSON.stringify(composite))]),
    );
    // This file's own name changes with what it does.
    era = textStamp(JSON.stringify([import.meta.url, rate, request.shown, request.cuts]));
    keys = [];
    composites = request.composites;
    shownComposites = request.shown;
    cuts = request.cuts;
    lengthOf = sourceLength(cuts, (take) => takeLengths[take] ?? 0);
  } else {
    wanted = { frame: request.frame, mode: request.mode };
    void work();
  }
};
