import { framesToSeconds, secondsToFrames, type FrameRate } from './frame-rate.ts';

/** Beats: even ones by tempo and first downbeat, or one by one where the tempo drifts. */
export interface BeatGrid {
  /** Beats per minute. */
  tempo: number;
  /** Seconds from the start of the time line to the first downbeat; may be negative. */
  firstBeat: number;
  beatsPerBar: number;
  /** Seconds of each beat, in order; none or empty: they are even. */
  times?: readonly number[];
  /** Which of these is the first that begins a bar. */
  downbeat?: number;
}

export interface Beat {
  frame: number;
  bar: number;
  /** 1 is the downbeat. */
  beat: number;
}

/** All beats from frame `from` to frame `to` inclusive. Frames are fractional. */
export function beatsBetween(grid: BeatGrid, rate: FrameRate, from: number, to: number): Beat[] {
  if (grid.times && grid.times.length > 0) return knownBeats(grid.times, grid, rate, from, to);
  const period = 60 / grid.tempo;
  const first = Math.ceil((framesToSeconds(from, rate) - grid.firstBeat) / period - 1e-9);
  const last = Math.floor((framesToSeconds(to, rate) - grid.firstBeat) / period + 1e-9);
  const beats: Beat[] = [];
  for (let n = Math.max(0, first); n <= last; n++) {
    beats.push({
      frame: secondsToFrames(grid.firstBeat + n * period, rate),
      bar: Math.floor(n / grid.beatsPerBar) + 1,
      beat: (n % grid.beatsPerBar) + 1,
    });
  }
  return beats;
}

/** Beats that are known one by one; those before the first bar count as of bar 0. */
function knownBeats(
  times: readonly number[],
  { beatsPerBar, downbeat = 0 }: BeatGrid,
  rate: FrameRate,
  from: number,
  to: number,
): Beat[] {
  return times.flatMap((seconds, i) => {
    const frame = secondsToFrames(seconds, rate);
    if (frame < from - 1e-6 || frame > to + 1e-6) return [];
    const bar = Math.floor((i - downbeat) / beatsPerBar);
    return [{ frame, bar: bar + 1, beat: i - downbeat - bar * beatsPerBar + 1 }];
  });
}

/** The grid on a time line that begins so many seconds later. */
export function gridFrom(grid: BeatGrid, seconds: number): BeatGrid {
  return { ...grid, firstBeat: grid.firstBeat - seconds, times: grid.times?.map((time) => time - seconds) };
}

/** The whole frame nearest to a beat, if one lies within `reach` frames of `frame`; otherwise `frame` itself. */
export function snapToBeat(grid: BeatGrid, rate: FrameRate, frame: number, reach: number): number {
  const near = beatsBetween(grid, rate, frame - reach, frame + reach);
  let best = frame;
  let distance = reach;
  for (const beat of near) {
    const d = Math.abs(beat.frame - frame);
    if (d <= distance) {
      distance = d;
      best = Math.round(beat.frame);
    }
  }
  return best;
}
