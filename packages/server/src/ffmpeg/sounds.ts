import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import { startFfmpeg } from './ffmpeg.ts';

/** Decodes the first `seconds` of any sound file to stereo at the working rate. */
export async function decodeSound(ffmpeg: string, path: string, seconds: number, signal?: AbortSignal): Promise<Sound> {
  const args = [
    '-t',
    String(seconds),
    '-i',
    path,
    '-vn',
    '-f',
    'f32le',
    '-ac',
    '2',
    '-ar',
    String(SAMPLE_RATE),
    'pipe:1',
  ];
  const bytes = await startFfmpeg(ffmpeg, args, signal).done;
  const samples = new Float32Array(bytes.buffer, bytes.byteOffset, Math.floor(bytes.length / 4));
  const count = Math.floor(samples.length / 2);
  const sound: Sound = { sampleRate: SAMPLE_RATE, left: new Float32Array(count), right: new Float32Array(count) };
  for (let i = 0; i < count; i++) {
    sound.left[i] = samples[i * 2];
    sound.right[i] = samples[i * 2 + 1];
  }
  return sound;
}

/**
 * Seconds of sound that a file says it holds; null when it does not say. Only its headers are read.
 *
 * @throws Problem `ffmpeg/failed` when it holds no sound that can be read
 */
export async function soundSeconds(ffmpeg: string, path: string, signal?: AbortSignal): Promise<number | null> {
  // The sound is copied to nowhere, a tenth of a second of it: what ffmpeg says of the file before that is wanted.
  const args = ['-loglevel', 'info', '-i', path, '-map', '0:a:0', '-t', '0.1', '-c', 'copy', '-f', 'null', '-'];
  const { child, done } = startFfmpeg(ffmpeg, args, signal);
  let said = '';
  child.stderr!.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(0, 20_000)));
  await done;
  const time = /Duration: (\d+):(\d\d):(\d\d\.\d+)/.exec(said);
  return time ? Number(time[1]) * 3600 + Number(time[2]) * 60 + Number(time[3]) : null;
}

/**
 * Writes a sound as 48 kHz stereo FLAC, which server and browser decode to the same samples, and gives the samples on as
 * they come: it never lies in memory whole.
 *
 * @param limit seconds after which it is cut off
 */
export async function streamSound(
  ffmpeg: string,
  { path, out, limit }: { path: string; out: string; limit: number },
  meter: (interleaved: Float32Array) => void,
  signal?: AbortSignal,
): Promise<void> {
  const shape = ['-map', '0:a:0', '-ac', '2', '-ar', String(SAMPLE_RATE), '-t', String(limit)];
  const args = [
    ...['-y', '-i', path, '-vn'],
    ...[...shape, '-sample_fmt', 's16', '-map_metadata', '-1', '-f', 'flac', out],
    ...[...shape, '-f', 'f32le', 'pipe:1'],
  ];
  let rest = Buffer.alloc(0);
  const { done } = startFfmpeg(ffmpeg, args, signal, (chunk) => {
    const all = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
    const whole = all.length - (all.length % 8);
    // Samples must lie on a boundary of four bytes to be read in place.
    meter(new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + whole)));
    rest = Buffer.from(all.subarray(whole));
  });
  await done;
}
