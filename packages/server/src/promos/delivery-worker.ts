import { rename, rm, stat, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import type { Writable } from 'node:stream';
import type { MessagePort } from 'node:worker_threads';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import type { DeliveryFormat } from '@tender-orbit/core/contract';
import { heardOfMusic, promoLength, soundTrack } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { decodeSound, startFfmpeg } from '../ffmpeg/index.ts';
import { WorkerPool } from '../workers/index.ts';
import { FrameMaker, type PromoFiles } from './frame-maker.ts';
import { framesInOrder } from './frames-in-order.ts';
import type { FramesTask } from './frames-worker.ts';

const FRAMES_WORKER = new URL('./frames-worker.ts', import.meta.url);

/** What the thread says while it works. */
export interface EncodeNews {
  /** Process id of the encoder it started. */
  encoder?: number;
  progress?: number;
}

export interface DeliveryTask extends PromoFiles {
  /** The delivery's. */
  id: string;
  format: DeliveryFormat;
  ffmpeg: string;
  music: string | null;
  /** Files of its other sounds, by hash, and how far each is heard. */
  sounds: Record<string, { path: string; seconds: number }>;
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
async function decodeSounds({ ffmpeg, sounds }: DeliveryTask): Promise<Map<string, Sound>> {
  const decoded = new Map<string, Sound>();
  for (const [asset, { path, seconds }] of Object.entries(sounds))
    decoded.set(asset, await decodeSound(ffmpeg, path, seconds + 1));
  return decoded;
}

/** Threads that assemble; the encoder has its own. Kept for the next delivery. */
let team: WorkerPool<FramesTask, void> | null = null;
/** Threads at most, and frames below which starting them takes longer than they save. */
const MOST = 4;
const FEW = 24;
/** Bytes of a frame from which one thread has memory enough to fill: 4096 x 4096. */
const LARGE = 4096 * 4096 * 4;

/** A promo's frames in their order. */
async function* framesOf(job: DeliveryTask, count: number): AsyncGenerator<Uint8Array | Uint8ClampedArray> {
  const { id, snapshot, takeFolders, stills, films, cubes, vectors, fonts } = job;
  const files: PromoFiles = { snapshot, takeFolders, stills, films, cubes, vectors, fonts };
  const bytes = snapshot.promo.width * snapshot.promo.height * 4;
  const threads = Math.min(MOST, availableParallelism());
  if (threads > 1 && count >= FEW && bytes < LARGE) {
    const pool = (team ??= new WorkerPool<FramesTask, void>(FRAMES_WORKER, { threads }));
    const stop = new AbortController();
    try {
      const { signal } = stop;
      yield* framesInOrder(count, bytes, threads, (from, to, into) =>
        pool.run({ id, files, from, to, into }, { signal }),
      );
    } finally {
      // What is still made when the encoder failed is of no use.
      stop.abort();
    }
    return;
  }
  const maker = await FrameMaker.open(files);
  try {
    for (let frame = 0; frame < count; frame++) yield (await maker.frame(frame)).data;
  } finally {
    maker.dispose();
  }
}

/** Writes a frame, and waits until its memory is free again or the encoder has ended. */
async function written(
  to: Writable,
  { buffer, byteOffset, byteLength }: Uint8Array | Uint8ClampedArray,
  ended: Promise<unknown>,
): Promise<void> {
  const free = new Promise<void>((resolve) => to.write(Buffer.from(buffer, byteOffset, byteLength), () => resolve()));
  await Promise.race([free, ended.catch(() => undefined)]);
}

/** Assembles every frame of a promo and encodes it; the file appears whole or not at all. */
export default async function encode(job: DeliveryTask): Promise<{ size: number }> {
  const say = (news: EncodeNews): void => job.port.postMessage(news);
  const { promo, frameRate } = job.snapshot;
  const frames = promoLength(promo);
  const soundPath = `${job.output}.f32`;
  const part = `${job.output}.part`;
  try {
    // No more of the music is decoded than the promo plays.
    const heard = promo.music ? heardOfMusic(promo.music, framesToSeconds(frames, frameRate)) + 1 : 0;
    const music = job.music ? await decodeSound(job.ffmpeg, job.music, heard) : null;
    const sound = soundTrack(promo, frameRate, music, SAMPLE_RATE, await decodeSounds(job), job.snapshot.cuts);
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
    let frame = 0;
    for await (const picture of framesOf(job, frames)) {
      if (failed) break;
      await written(child.stdin!, picture, done);
      say({ progress: ++frame / frames });
    }
    child.stdin!.end();
    await done;
    await rename(part, job.output);
    return { size: (await stat(job.output)).size };
  } finally {
    await rm(soundPath, { force: true });
    await rm(part, { force: true });
  }
}
