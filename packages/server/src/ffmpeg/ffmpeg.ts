import { spawn, type ChildProcess } from 'node:child_process';
import { Problem } from '@tender-orbit/core/problem';

/**
 * Starts ffmpeg, or ffprobe, without a shell; the arguments are ours, paths come from the asset store. `signal` ends it. What it writes is
 * gathered, or given to `onOutput` as it comes.
 */
export function startFfmpeg(
  ffmpeg: string,
  args: string[],
  signal?: AbortSignal,
  onOutput?: (chunk: Buffer) => void,
): { child: ChildProcess; done: Promise<Buffer> } {
  const child = spawn(
    ffmpeg,
    ['-hide_banner', '-loglevel', 'error', ...(ffmpeg.endsWith('ffprobe') ? [] : ['-nostdin']), ...args],
    {
      stdio: ['pipe', 'pipe', 'pipe'],
      signal,
      killSignal: 'SIGKILL',
    },
  );
  const out: Buffer[] = [];
  let errors = '';
  child.stdout.on('data', onOutput ?? ((chunk: Buffer) => out.push(chunk)));
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
