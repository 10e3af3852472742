import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { availableParallelism } from 'node:os';
import sharp from 'sharp';
import { makeTrack, silence } from '@tender-orbit/core/audio';
import { newClipPicture, newPromo, newTitle, type PromoDocument } from '@tender-orbit/core/document';
import { assemble, fromTo, scaledPromo, shownAt, soundTrack } from '@tender-orbit/core/promo';
import type { Picture } from '@tender-orbit/core/picture';
import { framesInOrder } from '../packages/server/src/promos/frames-in-order.ts';
import { openPlates } from '../packages/server/src/promos/open-plates.ts';
import { openTitlePainter } from '../packages/server/src/promos/title-fonts.ts';
import { WorkerPool } from '../packages/server/src/workers/index.ts';
import { medianMs, type Bench } from './bench.ts';
import { FRAMES, HEIGHT, RATE, second, WIDTH } from './second.ts';
import type { SecondTask } from './second-worker.ts';

const SECOND_WORKER = new URL('./second-worker.ts', import.meta.url);

/** Milliseconds that x264 takes for a second of pictures, as they come from `frame`. */
async function encoded(frames: AsyncIterable<Uint8Array | Uint8ClampedArray>): Promise<number> {
  const started = performance.now();
  const child = spawn(
    'ffmpeg',
    [
      ...['-loglevel', 'error', '-nostdin', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${WIDTH}x${HEIGHT}`],
      ...['-r', '24', '-i', 'pipe:0', '-vf', 'scale=out_color_matrix=bt709,format=yuv420p', '-c:v', 'libx264'],
      ...['-preset', 'veryfast', '-crf', '16', '-f', 'null', '-'],
    ],
    { stdio: ['pipe', 'ignore', 'inherit'] },
  );
  const closed = once(child, 'close');
  for await (const { buffer, byteOffset, byteLength } of frames)
    await new Promise((free) => child.stdin.write(Buffer.from(buffer, byteOffset, byteLength), free));
  child.stdin.end();
  await closed;
  return performance.now() - started;
}

/** Frames as threads of a delivery assemble them. */
function assembling(pool: WorkerPool<SecondTask, void>, threads: number): AsyncGenerator<Uint8Array> {
  return framesInOrder(FRAMES, WIDTH * HEIGHT * 4, threads, (from, to, into) => pool.run({ from, to, into }));
}

/** Milliseconds that so many threads take for all frames, once they are warm. */
async function assembled(threads: number): Promise<number> {
  const pool = new WorkerPool<SecondTask, void>(SECOND_WORKER, { threads });
  const once = async (): Promise<number> => {
    const started = performance.now();
    for await (const frame of assembling(pool, threads)) if (frame.length === 0) throw new Error('A frame is empty');
    return performance.now() - started;
  };
  await once();
  const ms = await once();
  await pool.close();
  return ms;
}

async function* each(pictures: readonly Picture[]): AsyncGenerator<Uint8ClampedArray> {
  for (const { data } of pictures) yield data;
}

/** What a promo takes to be made at full HD. */
export const promoBenches: Bench[] = [
  {
    name: 'promo/assemble-1080p-ms',
    unit: 'ms',
    run: async () => {
      const { frame, close } = await second();
      frame(0);
      const started = performance.now();
      const pictures = Array.from({ length: FRAMES }, (_, n) => frame(n));
      const ms = (performance.now() - started) / FRAMES;
      const alone = (await encoded(each(pictures))) / FRAMES;
      close();
      return {
        value: ms,
        note: `take, gradient, grade and title; the encoder alone takes ${alone.toFixed(0)} ms: ${(ms / alone).toFixed(2)}x`,
      };
    },
  },
  {
    name: 'release/1080p-vs-encoder-alone',
    unit: 'x',
    run: async () => {
      const { frame, close } = await second();
      const pictures = Array.from({ length: FRAMES }, (_, n) => frame(n));
      close();
      const threads = availableParallelism();
      const pool = new WorkerPool<SecondTask, void>(SECOND_WORKER, { threads });
      // Threads are there and warm, as they are after the first seconds of a delivery.
      await encoded(assembling(pool, threads));
      const alone = await encoded(each(pictures));
      const both = await encoded(assembling(pool, threads));
      await pool.close();
      return {
        value: alone / both,
        note: `x264 veryfast alone: ${((FRAMES / alone) * 1000).toFixed(1)} frames a second; assembled by ${threads} threads`,
      };
    },
  },
  {
    name: 'promo/assemble-two-threads',
    unit: 'x',
    run: async () => {
      const alone = await assembled(1);
      const both = await assembled(2);
      return { value: alone / both, note: `${(alone / FRAMES).toFixed(0)} ms a frame on one thread` };
    },
  },
  {
    name: 'promo/scrub-first-picture-ms',
    unit: 'ms',
    run: async () => {
      // What the preview shows at once after a jump, as large as it begins with: a take's frame read from its file, moved by keys, and a title.
      const [width, height] = [960, 540];
      const PREVIEW = 640;
      const plates = openPlates();
      const painter = await openTitlePainter();
      const noise = Buffer.from(Uint8Array.from({ length: width * height * 3 }, (_, i) => 90 + ((i * 7919) % 60)));
      const file = await sharp(noise, { raw: { width, height, channels: 3 } })
        .webp({ quality: 90 })
        .toBuffer();
      const { picture, keys } = fromTo(FRAMES, { scale: 1 }, { scale: 1.08 });
      const promo: PromoDocument = {
        ...newPromo('Promo', width, height),
        clips: [{ id: 'c', take: 'take', start: 0, length: FRAMES, picture: newClipPicture(picture) }],
        titles: [newTitle('title', { text: 'Slow as the hill', size: 60, start: 0, length: FRAMES })],
        tracks: Object.entries(keys).map(([path, own]) => ({ thing: 'c', path, keys: own })),
      };
      const first = async (n: number): Promise<void> => {
        const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
        const read: Picture = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
        const small = scaledPromo(promo, PREVIEW);
        const shown = shownAt(small, n, () => FRAMES);
        assemble(plates, small, n, shown, () => read, painter);
      };
      await first(0);
      const started = performance.now();
      for (let n = 0; n < FRAMES; n++) await first(n);
      const value = (performance.now() - started) / FRAMES;
      painter.dispose();
      return { value, note: 'a take of 960x540 read, moved and titled at 640x360; without the composite of its shot' };
    },
  },
  {
    name: 'promo/make-music-x-real-time',
    unit: 'x',
    run: async () => {
      const seconds = 30;
      const started = performance.now();
      makeTrack({ style: 'pulse', mood: 'hopeful', energy: 'build and drop', tempo: 110, seconds, seed: 3 });
      return { value: (seconds * 1000) / (performance.now() - started), note: `${seconds} s of the busier style` };
    },
  },
  {
    name: 'audio/mix-x-real-time',
    unit: 'x',
    run: async () => {
      const seconds = 60;
      const music = silence(seconds * 48_000, 48_000);
      for (let i = 0; i < music.left.length; i++)
        music.left[i] = music.right[i] = 0.4 * Math.sin(i * 0.03) * Math.sin(i * 0.0002);
      const promo: PromoDocument = {
        ...newPromo('Promo', WIDTH, HEIGHT),
        clips: [{ id: 'c', take: 't', start: 0, length: (seconds - 4) * 24 }],
        music: {
          ...{ asset: '', name: 'Tune', trim: 0, gain: -3, fadeIn: 1, fadeOut: 2, ring: 2, loudness: -14 },
          ...{ tempo: 100, firstBeat: 0, beats: [], beatsPerBar: 4, downbeat: 0, sections: [] },
        },
      };
      const took = (await medianMs(3, () => soundTrack(promo, RATE, { ...music }, 48_000))) / 1000;
      return { value: (seconds - 4) / took, note: 'music with fades, its last beat rung out, brought to -14 LUFS' };
    },
  },
];
