import { randomBytes } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { PeakMeter, SAMPLE_RATE } from '@tender-orbit/core/audio';
import type { MusicMade } from '@tender-orbit/core/contract';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import type { JobHandler } from '../jobs/index.ts';
import { soundSeconds, streamSound } from '../ffmpeg/index.ts';

/** What a sound job carries: an uploaded file and its name. */
export interface SoundPayload {
  asset: string;
  fileName: string;
  person: string;
}

const LONGEST_MINUTES = 30;
/** Seconds below which a file holds nothing that can be heard. */
const SHORTEST = 0.01;
/** Seconds that reading one may take. */
const SECONDS = 120;

/** Makes uploaded sounds into the working format and measures them. */
export class SoundNode {
  constructor(
    private readonly assets: AssetStore,
    private readonly ffmpeg: string,
    private readonly folder: string,
  ) {}

  get handlers(): Record<string, JobHandler> {
    return {
      sound: async ({ payload }, { signal }) => ({ result: await this.read(payload as SoundPayload, signal) }),
    };
  }

  private async read({ asset, fileName, person }: SoundPayload, signal: AbortSignal): Promise<MusicMade> {
    const path = this.assets.path(asset);
    await mkdir(this.folder, { recursive: true });
    const out = join(this.folder, `${randomBytes(12).toString('hex')}.flac`);
    const limited = AbortSignal.any([signal, AbortSignal.timeout(SECONDS * 1000)]);
    const meter = new PeakMeter(SAMPLE_RATE);
    try {
      const told = await soundSeconds(this.ffmpeg, path, limited);
      if (told !== null) checkLength(fileName, told);
      const limit = LONGEST_MINUTES * 60 + 1;
      await streamSound(this.ffmpeg, { path, out, limit }, (samples) => meter.push(samples), limited);
      // What a file says of itself may be a lie.
      const seconds = meter.samples / SAMPLE_RATE;
      checkLength(fileName, seconds);
      if (seconds < SHORTEST) throw unreadable(fileName);
      const music = await this.assets.adopt(out, person);
      const peaks = await this.assets.put(meter.done(), person);
      return { asset: music.hash, peaks: peaks.hash, name: fileName, seconds };
    } catch (error) {
      if (signal.aborted || (error instanceof Problem && error.code !== 'ffmpeg/failed')) throw error;
      throw unreadable(fileName);
    } finally {
      await rm(out, { force: true });
    }
  }
}

function checkLength(fileName: string, seconds: number): void {
  if (seconds <= LONGEST_MINUTES * 60 + 0.5) return;
  throw new Problem('sound/long', `"${fileName}" is longer than ${LONGEST_MINUTES} minutes: cut it first.`, fileName);
}

function unreadable(fileName: string): Problem {
  return new Problem(
    'sound/broken',
    `"${fileName}" could not be read as sound: save it again as wav or flac and retry.`,
    fileName,
  );
}
