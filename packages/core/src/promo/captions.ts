import { newDress, newTitle, PROMO_LIMITS, type PromoDocument, type Title } from '../document/index.ts';
import { Problem } from '../problem/index.ts';
import { framesToSeconds, secondsToFrames, type FrameRate } from '../time/index.ts';
import { promoLength, shownTakes, takeFramesAt } from './cut.ts';
import { sourceLength } from './nested.ts';

/** Words and when they are read, in seconds from the beginning; lines are parted by line feeds. */
export interface Caption {
  start: number;
  end: number;
  text: string;
}

/** WebVTT (W3C) and SubRip: text files that lie beside a film. */
export const CAPTION_FORMATS = ['vtt', 'srt'] as const;
export type CaptionFormat = (typeof CAPTION_FORMATS)[number];

/** A plain face that is read well when small. */
const CAPTION_FONT = 'hanken-grotesk-500';

/** A text while it is in the picture, frames; lower in the picture means read later. */
interface Read {
  text: string;
  y: number;
  from: number;
  to: number;
}

/** Titles of cuts that a promo shows, in frames of the promo; each as often as it comes. */
function readInCuts(promo: PromoDocument, cuts: CutsById, within: readonly PromoDocument[] = []): Read[] {
  if (!shownTakes(promo).some((id) => cuts[id])) return [];
  const around = [...within, promo];
  const lengthOf = sourceLength(cuts, () => 0);
  const titles = new Map<string, Read[]>();
  const ofCut = (id: string): Read[] => {
    const known = titles.get(id) ?? (around.includes(cuts[id]) ? [] : readTexts(cuts[id], cuts, around));
    titles.set(id, known);
    return known;
  };
  const done: Read[] = [];
  const open = new Map<Read, Read>();
  for (let frame = 0, end = promoLength(promo); frame <= end; frame++) {
    const shown = new Set(
      takeFramesAt(promo, frame, lengthOf).flatMap((part) =>
        cuts[part.take] ? ofCut(part.take).filter(({ from, to }) => part.frame >= from && part.frame < to) : [],
      ),
    );
    for (const [text, run] of open)
      if (!shown.has(text)) {
        done.push({ ...run, to: frame });
        open.delete(text);
      }
    for (const text of shown) if (!open.has(text)) open.set(text, { ...text, from: frame });
  }
  return done;
}

const readTexts = (promo: PromoDocument, cuts: CutsById, within: readonly PromoDocument[]): Read[] => [
  ...promo.titles.map(({ text, y, start, length }) => ({ text, y, from: start, to: start + length })),
  ...readInCuts(promo, cuts, within),
];

type CutsById = Readonly<Record<string, PromoDocument>>;

/**
 * The titles of a promo, and of the cuts that it shows, as captions, in the order in which they are read.
 * @param cuts other cuts that it shows, by their ids.
 */
export function captionsOf(promo: PromoDocument, rate: FrameRate, cuts: CutsById = {}): Caption[] {
  return readTexts(promo, cuts, [])
    .sort((a, b) => a.from - b.from || a.y - b.y)
    .map(({ from, to, text }) => ({
      start: framesToSeconds(from, rate),
      end: framesToSeconds(to, rate),
      text: linesOf(text).join('\n'),
    }))
    .filter(({ text }) => text !== '');
}

/** Lines with something on them: an empty one would end a caption. */
function linesOf(text: string): string[] {
  return text
    .split(/\r\n|\r|\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
}

/** Hours, minutes, seconds and thousandths. */
function stamp(seconds: number, point: string): string {
  const all = Math.round(seconds * 1000);
  const two = (v: number): string => String(Math.floor(v)).padStart(2, '0');
  const thousandths = String(all % 1000).padStart(3, '0');
  return `${two(all / 3600000)}:${two((all / 60000) % 60)}:${two((all / 1000) % 60)}${point}${thousandths}`;
}

/** A file of captions as text. What would be markup in WebVTT is escaped; SubRip has no escapes. */
export function writeCaptions(captions: readonly Caption[], format: CaptionFormat): string {
  const vtt = format === 'vtt';
  const point = vtt ? '.' : ',';
  const cues = captions.map(({ start, end, text }, i) => {
    const words = vtt ? text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;') : text;
    return `${i + 1}\n${stamp(start, point)} --> ${stamp(end, point)}\n${words}\n`;
  });
  return (vtt ? ['WEBVTT\n', ...cues] : cues).join('\n');
}

const TIME = String.raw`(?:(\d+):)?([0-5]?\d):([0-5]?\d)[.,](\d{1,3})`;
const TIMES = new RegExp(String.raw`^\s*${TIME}\s+-->\s+${TIME}(?:\s.*)?$`);
const NAMED: Record<string, string> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', quot: '"', apos: "'", lrm: '', rlm: '' };

/** What is read of a caption's line: no tags of WebVTT or SubRip, no placing marks, and named characters as they are. */
function plain(line: string): string {
  return line
    .replace(/\{\\[^}]*\}/g, '')
    .replace(/<\/?(?:(?:b|i|u|s|c|v|rt|ruby|lang|font)(?:[.\s][^<>]*)?|(?:\d+:)?\d\d:\d\d\.\d{3})>/gi, '')
    .replace(/&(amp|lt|gt|nbsp|quot|apos|lrm|rlm);/g, (_, name: string) => NAMED[name]);
}

/**
 * Reads a file of captions, WebVTT or SubRip; comments, styles and regions are passed over.
 * @param name of the file, for what is said of it.
 * @throws Problem when there is none in it, or one ends before it begins.
 */
export function readCaptions(text: string, name: string): Caption[] {
  const captions: Caption[] = [];
  const blocks = text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .split(/\n[ \t]*\n+/);
  for (const block of blocks) {
    const lines = block.split('\n');
    // A number or a name may stand above the times.
    const at = lines.slice(0, 3).findIndex((line) => TIMES.test(line));
    if (at < 0 || /^(NOTE|STYLE|REGION)\b/.test(lines[0])) continue;
    const parts = TIMES.exec(lines[at])!
      .slice(1)
      .map((v) => (v === undefined ? 0 : v));
    const seconds = (first: number): number => {
      const [h, m, s, fraction] = parts.slice(first, first + 4);
      return Number(h) * 3600 + Number(m) * 60 + Number(s) + Number(`0.${fraction}`);
    };
    const [start, end] = [seconds(0), seconds(4)];
    if (end <= start)
      throw new Problem(
        'captions/no-time',
        `Caption ${captions.length + 1} of ${name} ends before it begins (${lines[at].trim()}): put its times right.`,
        name,
      );
    const words = linesOf(
      lines
        .slice(at + 1)
        .map(plain)
        .join('\n'),
    ).join('\n');
    if (words !== '') captions.push({ start, end, text: words });
  }
  if (captions.length === 0)
    throw new Problem(
      'captions/none',
      `${name} has no captions: it should be a WebVTT or SubRip file, with times like 00:00:01.000 --> 00:00:02.500.`,
      name,
    );
  return captions;
}

/**
 * Captions as titles of a promo: small, low in the picture, in a box, on and off at once.
 * @param id gives each a name of its own.
 * @throws Problem when the promo would have too many titles, one too many letters, or one lies beyond any promo.
 */
export function titlesOf(
  captions: readonly Caption[],
  promo: PromoDocument,
  rate: FrameRate,
  id: (n: number) => string,
): Title[] {
  const room = PROMO_LIMITS.titles - promo.titles.length;
  if (captions.length > room)
    throw new Problem(
      'captions/many',
      `${captions.length} captions are more than the promo has room for: it takes ${PROMO_LIMITS.titles} titles, and has ${promo.titles.length}.`,
    );
  const long = captions.findIndex(({ text }) => text.length > PROMO_LIMITS.letters);
  if (long >= 0)
    throw new Problem(
      'captions/long',
      `Caption ${long + 1} has ${captions[long].text.length} letters: a title takes ${PROMO_LIMITS.letters}. Split it.`,
    );
  const late = captions.findIndex(({ end }) => secondsToFrames(end, rate) > PROMO_LIMITS.frames);
  if (late >= 0)
    throw new Problem(
      'captions/late',
      `Caption ${late + 1} ends after ${Math.round(captions[late].end)} s, which is beyond any promo: move its times to the beginning.`,
    );
  return captions.map(({ start, end, text }, n) => {
    const from = Math.round(secondsToFrames(start, rate));
    return newTitle(id(n), {
      ...{ text, font: CAPTION_FONT, size: Math.round(Math.min(promo.width, promo.height) / 20), y: 0.9 },
      ...{ start: from, length: Math.max(1, Math.round(secondsToFrames(end, rate)) - from) },
      arrive: { kind: 'none', frames: 0 },
      leave: { kind: 'none', frames: 0 },
      dress: { ...newDress(), box: 0.6, boxColour: '#15121C', boxPadding: 0.35, boxRadius: 0.2 },
    });
  });
}
