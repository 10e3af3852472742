import type { MusicMade } from '@tender-orbit/core/contract';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import type { JobHandler } from '../jobs/index.ts';
import { decodeSound, toFlac } from './ffmpeg.ts';

/** What a sound job carries: an uploaded file and its name. */
export interface SoundPayload {
  asset: string;
  fileName: string;
  person: string;
}

const LONGEST_MINUTES = 30;

/** Makes uploaded sounds into the working format and measures them. */
export class SoundNode {
  constructor(
    private readonly assets: AssetStore,
    private readonly ffmpeg: string,
  ) {}

  get handlers(): Record<string, JobHandler> {
    return {
      sound: async ({ payload }, { signal }) => ({ result: await this.read(payload as SoundPayload, signal) }),
    };
  }

  private async read({ asset, fileName, person }: SoundPayload, signal: AbortSignal): Promise<MusicMade> {
    const path = this.assets.path(asset);
    let flac: Buffer;
    let seconds: number;
    try {
      flac = await toFlac(this.ffmpeg, path, signal);
      const sound = await decodeSound(this.ffmpeg, path, signal);
      seconds = sound.left.length / sound.sampleRate;
    } catch (error) {
      if (signal.aborted || (error instanceof Problem && error.code === 'ffmpeg/missing')) throw error;
      throw new Problem(
        'sound/broken',
        `"${fileName}" could not be read as sound: save it again as wav or flac and retry.`,
        fileName,
      );
    }
    if (seconds > LONGEST_MINUTES * 60)
      throw new Problem(
        'sound/long',
        `"${fileName}" is longer than ${LONGEST_MINUTES} minutes: cut it first.`,
        fileName,
      );
    const stored = await this.assets.put(flac, person);
    return { asset: stored.hash, name: fileName, seconds };
  }
}
