import { once } from 'node:events';
import { rename, rm, stat, writeFile } from 'node:fs/promises';
import type { MessagePort } from 'node:worker_threads';
import type { DeliveryFormat } from '@tender-orbit/core/contract';
import { layersOver } from '@tender-orbit/core/composite';
import {
  assemble,
  heardOfMusic,
  promoLength,
  promoTexts,
  shownAt,
  soundTrack,
  takeFramesAt,
  textDrawer,
} from '@tender-orbit/core/promo';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import { framesToSeconds } from '@tender-orbit/core/time';
import { decodeSound, startFfmpeg } from '../ffmpeg/index.ts';
import type { DeliverySnapshot } from '@tender-orbit/core/document';
import { TakePictures } from './take-pictures.ts';
import { openTitlePainter } from './title-fonts.ts';

/** What the thread says while it works. */
export interface EncodeNews {
  /** Process id of the encoder it started. */
  encoder?: number;
  progress?: number;
}

export interface DeliveryTask {
  snapshot: DeliverySnapshot;
  format: DeliveryFormat;
  ffmpeg: string;
  /** Folder of each take's frames. */
  takeFolders: Record<string, string>;
  /** Files of stills by hash. */
  stills: Record<string, string>;
  /** Files of the frames of films, by the hash of their list. */
  films: Record<string, string[]>;
  /** Files of tables of colours, by hash. */
  cubes: Record<string, string>;
  /** Files of fonts that were brought, by hash. */
  fonts: Record<string, string>;
  vectors: Record<string, string>;
  music: string | null;
  /** Files of its other sounds, by hash. */
  sounds: Record<string, string>;
  output: string;
  port: MessagePort;
}

/** Encoder settings by format. BT.709 tags; limited range; sound trimmed to the pictures' exact length beforehand. */
const ENCODERS: Record<DeliveryFormat, string[]> = {
  mp4: [
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-crf',
    '16',
    '-c:a',
    'aac',
    '-b:a',
    '256k',
    '-movflags',
    '+faststart',
    '-f',
    'mp4',
  ],
  webm: [
    '-c:v',
    'libvpx-vp9',
    '-deadline',
    'realtime',
    '-cpu-used',
    '6',
    '-crf',
    '22',
    '-b:v',
    '0',
    '-row-mt',
    '1',
    '-c:a',
    'libopus',
    '-b:a',
    '192k',
    '-f',
    'webm',
  ],
};
const COLOUR = [
  '-vf',
  'scale=in_range=full:out_range=tv:out_color_matrix=bt709,format=yuv420p',
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
];

/** Sound files of a promo, each as far as it is heard. */
async function decodeSounds({ ffmpeg, sounds, snapshot }: DeliveryTask): Promise<Map<string, Sound>> {
  const decoded = new Map<string, Sound>();
  for (const [asset, path] of Object.entries(sounds)) {
    const ends = snapshot.promo.sounds.map(({ source }) =>
      source.kind === 'file' && source.asset === asset ? source.trim + source.seconds : 0,
    );
    decoded.set(asset, await decodeSound(ffmpeg, path, Math.max(...ends) + 1));
  }
  return decoded;
}

/** Assembles every frame of a promo and encodes it; the file appears whole or not at all. */
export default async function encode(job: DeliveryTask): Promise<{ size: number }> {
  const say = (news: EncodeNews): void => job.port.postMessage(news);
  const { promo, frameRate, takeLengths } = job.snapshot;
  const frames = promoLength(promo);
  const soundPath = `${job.output}.f32`;
  const part = `${job.output}.part`;
  try {
    // No more of the music is decoded than the promo plays.
    const heard = promo.music ? heardOfMusic(promo.music, framesToSeconds(frames, frameRate)) + 1 : 0;
    const music = job.music ? await decodeSound(job.ffmpeg, job.music, heard) : null;
    const sound = soundTrack(promo, frameRate, music, SAMPLE_RATE, await decodeSounds(job));
    const interleaved = new Float32Array(sound.left.length * 2);
    for (let i = 0; i < sound.left.length; i++) {
      interleaved[i * 2] = sound.left[i];
      interleaved[i * 2 + 1] = sound.right[i];
    }
    await writeFile(soundPath, new Uint8Array(interleaved.buffer));
    const { child, done } = startFfmpeg(job.ffmpeg, [
      ...[
        '-f',
        'rawvideo',
        '-pix_fmt',
        'rgba',
        '-s',
        `${promo.width}x${promo.height}`,
        '-r',
        `${frameRate.num}/${frameRate.den}`,
        '-i',
        'pipe:0',
      ],
      ...['-f', 'f32le', '-ar', String(SAMPLE_RATE), '-ac', '2', '-i', soundPath],
      ...COLOUR,
      ...ENCODERS[job.format],
      ...['-y', part],
    ]);
    say({ encoder: child.pid });
    let failed = false;
    done.catch(() => (failed = true));
    const painter = await openTitlePainter(job.fonts);
    const { takeFolders, stills, films, cubes, vectors } = job;
    const composites = job.snapshot.composites ?? {};
    const shown = job.snapshot.shown ?? {};
    await painter.need(
      promoTexts(
        promo,
        [composites, shown].flatMap((all) => Object.values(all)),
      ),
    );
    const pictures = new TakePictures(
      {
        takeFolders,
        stills,
        films,
        cubes,
        vectors,
        footage: Object.fromEntries(promo.footage.map((f) => [f.id, f.list])),
      },
      composites,
      frameRate,
      textDrawer(painter),
    );
    const lengthOf = (take: string): number => takeLengths[take] ?? 0;
    for (let frame = 0; frame < frames && !failed; frame++) {
      await pictures.load(takeFramesAt(promo, frame, lengthOf));
      const picture = assemble(
        pictures.plates,
        promo,
        frame,
        shownAt(promo, frame, lengthOf),
        pictures.loaded,
        painter,
        await layersOver(promo, shown, frame, frameRate, pictures),
        lengthOf,
      );
      if (!child.stdin!.write(Buffer.from(picture.data.buffer, picture.data.byteOffset, picture.data.byteLength))) {
        await Promise.race([once(child.stdin!, 'drain'), done.catch(() => undefined)]);
      }
      say({ progress: (frame + 1) / frames });
    }
    child.stdin!.end();
    await done;
    painter.dispose();
    await rename(part, job.output);
    return { size: (await stat(job.output)).size };
  } finally {
    await rm(soundPath, { force: true });
    await rm(part, { force: true });
  }
}
