import { execFileSync } from 'node:child_process';
import { expect } from 'chai';
import sharp from 'sharp';

/** The fifth frame of a film, away from the title, is a take's own frame, and not blank. */
export async function compareWithTake(path: string, frame: Buffer): Promise<void> {
  const decoded = execFileSync(
    'ffmpeg',
    [
      '-loglevel',
      'error',
      '-i',
      path,
      '-vf',
      'select=eq(n\\,4),scale=in_color_matrix=bt709:in_range=tv:out_range=pc',
      '-frames:v',
      '1',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb24',
      '-',
    ],
    { maxBuffer: 1 << 26 },
  );
  const wanted = await sharp(frame).resize(960, 540).removeAlpha().raw().toBuffer();
  let [error, spread, mean] = [0, 0, 0];
  const rows = 380 * 960 * 3;
  for (let i = 0; i < rows; i++) mean += decoded[i] / rows;
  for (let i = 0; i < rows; i++) {
    error += Math.abs(decoded[i] - wanted[i]) / rows;
    spread += Math.abs(decoded[i] - mean) / rows;
  }
  expect(error).below(4);
  expect(spread).above(10);
}

/** Mean volume in dB below full scale. */
export function meanVolume(path: string): number {
  const log = execFileSync('sh', [
    '-c',
    'ffmpeg -hide_banner -i "$0" -af volumedetect -f null - 2>&1',
    path,
  ]).toString();
  return Number(log.match(/mean_volume: (-?[\d.]+) dB/)![1]);
}
