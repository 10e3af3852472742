import { spawn, type ChildProcess } from 'node:child_process';
import { Problem } from '@tender-orbit/core/problem';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';

/** Starts ffmpeg without a shell; the arguments are ours, paths come from the asset store. `signal` ends it. */
export function startFfmpeg(
  ffmpeg: string,
  args: string[],
  signal?: AbortSignal,
): { child: ChildProcess; done: Promise<Buffer> } {
  const child = spawn(ffmpeg, ['-hide_banner', '-loglevel', 'error', '-nostdin', ...args], {
    stdio: ['pipe', 'pipe', 'pipe'],
    signal,
    killSignal: 'SIGKILL',
  });
  const out: Buffer[] = [];
  let errors = '';
  child.stdout.on('data', (chunk: Buffer) => out.push(chunk));
  child.stderr.on('data', (chunk: Buffer) => (errors = (errors + chunk.toString()).slice(-2000)));
  // When ffmpeg ends early the pipe breaks; its own exit says why.
  child.stdin.on('error', () => undefined);
  const done = new Promise<Buffer>((resolve, reject) => {
    child.on('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'ENOENT'
          ? new Problem(
              'ffmpeg/missing',
              'ffmpeg is not installed on the server, so video and sound cannot be made: install the package "ffmpeg" and try again.',
              'ffmpeg',
            )
          : error,
      ),
    );
    child.on('close', (code) =>
      code === 0
        ? resolve(Buffer.concat(out))
        : reject(
            new Problem(
              'ffmpeg/failed',
              `ffmpeg stopped: ${withoutPaths(errors.trim().split('\n').pop() ?? '') || 'no reason given'}`,
              'ffmpeg',
            ),
          ),
    );
  });
  return { child, done };
}

/** What ffmpeg says, without the server's own folders. */
const withoutPaths = (text: string): string => text.replace(/(?:\/[^\s/:'"]+)+/g, 'the file');

/** Decodes any sound file to stereo at the working rate. */
export async function decodeSound(ffmpeg: string, path: string, signal?: AbortSignal): Promise<Sound> {
  const args = ['-i', path, '-vn', '-f', 'f32le', '-ac', '2', '-ar', String(SAMPLE_RATE), 'pipe:1'];
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

/** The sound of a file as 48 kHz stereo FLAC, which server and browser decode to the same samples. */
export async function toFlac(ffmpeg: string, path: string, signal?: AbortSignal): Promise<Buffer> {
  const args = [
    '-i',
    path,
    '-vn',
    '-map',
    '0:a:0',
    '-ac',
    '2',
    '-ar',
    String(SAMPLE_RATE),
    '-sample_fmt',
    's16',
    '-map_metadata',
    '-1',
    '-f',
    'flac',
    'pipe:1',
  ];
  return startFfmpeg(ffmpeg, args, signal).done;
}
