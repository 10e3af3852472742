import { randomBytes } from 'node:crypto';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { FilmMade } from '@tender-orbit/core/contract';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import { cutFilm, filmFacts, streamSound, type FilmFacts } from '../ffmpeg/index.ts';
import type { JobHandler } from '../jobs/index.ts';
import { listFrames } from './frame-list.ts';

/** What a film job carries: an uploaded file, its name and how it is to be kept. */
export interface FilmPayload {
  asset: string;
  fileName: string;
  person: string;
  /** Frames a second; 0: its own. */
  rate: number;
  /** Frames at most. */
  most: number;
  /** Whether one that is longer is refused; otherwise its beginning is kept. */
  whole: boolean;
  /** Pixels of the longer side at most. */
  longest: number;
  /** Kept without loss, with alpha. */
  exact: boolean;
  /** Its sound is kept too. */
  sound: boolean;
}

/** Seconds that reading one may take. */
const SECONDS = 600;
/** Frames a second that a film is cut into at most. */
const MOST_RATE = 120;

/** Makes films into pictures, one for each frame at a constant rate. */
export class FilmNode {
  constructor(
    private readonly assets: AssetStore,
    private readonly ffmpeg: string,
    private readonly folder: string,
  ) {}

  get handlers(): Record<string, JobHandler> {
    return {
      film: async ({ payload }, { signal }) => ({ result: await this.read(payload as FilmPayload, signal) }),
    };
  }

  private async read(film: FilmPayload, signal: AbortSignal): Promise<FilmMade> {
    const { asset, fileName, person } = film;
    const path = this.assets.path(asset);
    const folder = join(this.folder, `film-${randomBytes(12).toString('hex')}`);
    await mkdir(folder, { recursive: true });
    const limited = AbortSignal.any([signal, AbortSignal.timeout(SECONDS * 1000)]);
    try {
      const facts = await filmFacts(this.ffmpeg, path, limited);
      const rate = Math.min(MOST_RATE, film.rate || exactRate(facts.rate));
      if (film.whole) checkLength(film, (facts.seconds ?? 0) * rate);
      const scale = Math.min(1, film.longest / Math.max(facts.width, facts.height));
      const width = Math.max(1, Math.round(facts.width * scale));
      const height = Math.max(1, Math.round(facts.height * scale));
      const out = join(folder, film.exact ? '%05d.png' : '%05d.jpg');
      // One more than there may be: what a file says of its length may be a lie.
      await cutFilm(this.ffmpeg, { path, facts, rate, most: film.most + 1, width, height, out }, limited);
      const files = (await readdir(folder)).sort();
      if (files.length === 0) throw unreadable(fileName);
      if (film.whole) checkLength(film, files.length);
      const frames: string[] = [];
      for (const file of files.slice(0, film.most))
        frames.push((await this.assets.adopt(join(folder, file), person)).hash);
      const list = await listFrames(this.assets, frames, person);
      const sound =
        film.sound && facts.sound && frames.length > 1
          ? { sound: await this.soundOf(film, join(folder, 'sound.flac'), frames.length / rate, limited) }
          : {};
      return { list, frames, width, height, rate, cut: files.length > film.most, ...sound };
    } catch (error) {
      if (signal.aborted) throw error;
      if (error instanceof Problem && error.code !== 'ffmpeg/failed')
        throw error.code === 'film/no-picture'
          ? new Problem(error.code, `"${fileName}": ${error.message}`, fileName)
          : error;
      throw unreadable(fileName);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  /** Keeps the sound of a film, as long as its pictures. @returns its hash. */
  private async soundOf(film: FilmPayload, out: string, limit: number, signal: AbortSignal): Promise<string> {
    await streamSound(this.ffmpeg, { path: this.assets.path(film.asset), out, limit }, () => undefined, signal);
    return (await this.assets.adopt(out, film.person)).hash;
  }
}

/** The mean rate of a film as one of those that are usual, when it is all but one of them. */
function exactRate(rate: FilmFacts['rate']): number {
  const usual = [24000 / 1001, 24, 25, 30000 / 1001, 30, 50, 60000 / 1001, 60];
  return usual.find((r) => Math.abs(r - rate) < 0.005) ?? rate;
}

function checkLength({ fileName, most }: FilmPayload, frames: number): void {
  if (frames > most + 0.5)
    throw new Problem(
      'film/too-long',
      `"${fileName}" has more than the ${most} frames that a film may have here: cut it, or bring it at a lower rate.`,
      fileName,
    );
}

function unreadable(fileName: string): Problem {
  return new Problem(
    'film/broken',
    `"${fileName}" could not be read as a film: bring an MP4, MOV, WebM or GIF file.`,
    fileName,
  );
}
