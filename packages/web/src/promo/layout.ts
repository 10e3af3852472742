/** Things with a beginning and a length in as few rows as hold them without overlap, earliest first; gives each one's row. */
export function rowsOf(items: ReadonlyArray<{ id: string; start: number; length: number }>): Map<string, number> {
  const rows = new Map<string, number>();
  const ends: number[] = [];
  for (const item of [...items].sort((a, b) => a.start - b.start || b.length - a.length)) {
    let row = ends.findIndex((end) => end <= item.start);
    if (row < 0) row = ends.length;
    ends[row] = item.start + item.length;
    rows.set(item.id, row);
  }
  return rows;
}

/** Closed outline of a waveform over a box `width` wide and `height` high; peaks are 0..1. */
export function waveOutline(peaks: ArrayLike<number>, width: number, height: number): string {
  const n = peaks.length;
  if (n === 0) return '';
  const x = (i: number): string => ((i / n) * width).toFixed(2);
  const half = height / 2;
  const up = Array.from({ length: n }, (_, i) => `${x(i)} ${(half - Math.min(1, peaks[i]) * half).toFixed(2)}`);
  const down = Array.from(
    { length: n },
    (_, i) => `${x(n - 1 - i)} ${(half + Math.min(1, peaks[n - 1 - i]) * half).toFixed(2)}`,
  );
  return `M${up.join('L')}L${down.join('L')}Z`;
}

/** Median tempo in beats per minute of taps (ms); 0 for fewer than four. */
export function tapTempo(taps: readonly number[]): number {
  if (taps.length < 4) return 0;
  const gaps = taps
    .slice(1)
    .map((t, i) => t - taps[i])
    .sort((a, b) => a - b);
  const middle = gaps.length >> 1;
  const median = gaps.length % 2 ? gaps[middle] : (gaps[middle - 1] + gaps[middle]) / 2;
  return Math.round(600000 / median) / 10;
}

/** Pixels of a row of overlays, and of the lane that they lie in; with none it is a place to carry clips to. */
export const OVERLAY_ROW = 26;
export const overlayLaneHigh = (overlays: Parameters<typeof rowsOf>[0]): number =>
  overlays.length === 0 ? 22 : Math.max(...rowsOf(overlays).values(), 0) * OVERLAY_ROW + OVERLAY_ROW + 4;
