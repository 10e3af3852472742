import type { FrameRate } from './frame-rate.ts';

const pad = (n: number): string => String(n).padStart(2, '0');

/**
 * SMPTE ST 12 timecode of a frame. NTSC 30 and 60 rates use drop-frame counting (written with `;`), which skips
 * numbers, never pictures, so that the label keeps pace with the clock.
 */
export function timecode(frame: number, rate: FrameRate): string {
  const base = Math.round(rate.num / rate.den);
  let n = Math.max(0, Math.floor(frame));
  const drops = rate.den === 1001 && base % 30 === 0 ? base / 15 : 0;
  if (drops > 0) {
    const perMinute = base * 60 - drops;
    const perTen = base * 600 - drops * 9;
    const tens = Math.floor(n / perTen);
    const rest = n % perTen;
    n += drops * 9 * tens + (rest >= drops ? drops * Math.floor((rest - drops) / perMinute) : 0);
  }
  const seconds = Math.floor(n / base);
  const ff = pad(n % base);
  return `${pad(Math.floor(seconds / 3600))}:${pad(Math.floor(seconds / 60) % 60)}:${pad(seconds % 60)}${drops > 0 ? ';' : ':'}${ff}`;
}

/** Seconds and frames, `03:17`, for shots under a minute; full timecode above. */
export function shortTimecode(frame: number, rate: FrameRate): string {
  const full = timecode(frame, rate);
  return full.startsWith('00:00:') ? full.slice(6) : full;
}
