import { framesToSeconds, secondsToFrames, type FrameRate } from './frame-rate.ts';

/** A steady beat: the tempo, where the first downbeat falls, and how many beats make a bar. */
export interface BeatGrid {
  /** Beats per minute. */
  tempo: number;
  /** Seconds from the start of the time line to the first downbeat; may be negative. */
  firstBeat: number;
  beatsPerBar: number;
}

export interface Beat {
  frame: number;
  bar: number;
  /** 1 is the downbeat. */
  beat: number;
}

/** All beats from frame `from` to frame `to` inclusive. Frames are fractional. */
export function beatsBetween(grid: BeatGrid, rate: FrameRate, from: number, to: number): Beat[] {
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
