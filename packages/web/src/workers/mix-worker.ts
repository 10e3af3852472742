import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import type { PromoDocument } from '@tender-orbit/core/document';
import { soundStems, type SoundStems } from '@tender-orbit/core/promo';
import type { FrameRate } from '@tender-orbit/core/time';

/** Mixes a promo's sound off the main thread, with the functions that the file's is mixed with. */
export type MixRequest =
  /** Samples of a file, which are kept. */
  | { kind: 'sound'; asset: string; sound: Sound }
  /** @param music its file by hash, or empty; `files`: those of other sounds that are here; `cuts`: those that it shows. */
  | {
      kind: 'mix';
      id: number;
      promo: PromoDocument;
      rate: FrameRate;
      cuts: Record<string, PromoDocument>;
      music: string;
      files: string[];
    };

export interface MixReply {
  id: number;
  stems: SoundStems;
}

const sounds = new Map<string, Sound>();

self.onmessage = ({ data }: MessageEvent<MixRequest>) => {
  if (data.kind === 'sound') {
    sounds.set(data.asset, data.sound);
    return;
  }
  const { id, promo, rate, cuts, music, files } = data;
  const known = new Map(files.flatMap((asset) => (sounds.has(asset) ? [[asset, sounds.get(asset)!] as const] : [])));
  const stems = soundStems(promo, rate, sounds.get(music) ?? null, SAMPLE_RATE, known, cuts);
  const parts = [stems.music, stems.sounds, stems.out].flatMap(({ left, right }) => [left.buffer, right.buffer]);
  self.postMessage({ id, stems } satisfies MixReply, { transfer: [...new Set(parts)] as ArrayBuffer[] });
};
