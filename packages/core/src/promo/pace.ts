import type { Clip } from '../document/index.ts';

/** Frames of its take that a clip plays, beginning to end: the integral of its speed. */
export function framesPlayed({ length, pace }: Pick<Clip, 'length' | 'pace'>): number {
  return pace ? ((pace.from + pace.to) / 2) * length : length;
}

/**
 * Where in its take a clip is at a frame of its own, in frames of the take and parts of them: the integral of a speed that changes
 * evenly. Before the clip's first frame and after its last, where a transition needs it, the speed goes on as it is there. A clip
 * that plays the other way shows the same frames from the last to the first.
 */
export function takeTime(clip: Clip, at: number): number {
  const { start, length, pace } = clip;
  if (!pace) return start + at;
  const { from, to, reverse } = pace;
  const within = Math.min(length, Math.max(0, at));
  let played = from * within + ((to - from) * within * within) / (2 * length);
  if (at < 0) played += from * at;
  if (at > length) played += to * (at - length);
  // The last frame of a clip that goes on for its whole length is the one before its end.
  return start + (reverse ? framesPlayed(clip) - 1 - played : played);
}

/** A frame of a take and how much of the picture it makes. */
export interface TakeFrame {
  take: string;
  frame: number;
  weight: number;
}

/** Speeds so near to a whole frame that no picture in between is asked for. */
const WHOLE = 1e-6;

/** The frames of its take that a clip shows at a frame of its own; none without a take. Past the take's ends the last one stays. */
export function framesShown(clip: Clip, at: number, takeLength: number): TakeFrame[] {
  if (clip.take === '' || takeLength <= 0) return [];
  const time = Math.min(takeLength - 1, Math.max(0, takeTime(clip, at)));
  const low = Math.floor(time + WHOLE);
  const far = time - low;
  const { take } = clip;
  if (clip.pace?.between !== 'blend')
    return [{ take, frame: Math.min(takeLength - 1, Math.floor(time + 0.5)), weight: 1 }];
  if (far < WHOLE || low + 1 >= takeLength) return [{ take, frame: low, weight: 1 }];
  return [
    { take, frame: low, weight: 1 - far },
    { take, frame: low + 1, weight: far },
  ];
}

/**
 * What the two halves of a clip become that is split at one of its frames: together they show what the whole showed, to the nearest
 * frame of the take.
 */
export function halvesOf(clip: Clip, at: number): [first: Partial<Clip>, second: Partial<Clip>] {
  const { start, length, pace } = clip;
  const first: Partial<Clip> = {};
  const second: Partial<Clip> = { start: Math.round(takeTime(clip, at)) };
  if (pace) {
    const speed = pace.from + ((pace.to - pace.from) * at) / length;
    first.pace = { ...pace, to: speed };
    second.pace = { ...pace, from: speed };
    if (pace.reverse) {
      // Played the other way, the first half has the later frames.
      first.start = Math.round(start + framesPlayed({ length: length - at, pace: second.pace }));
      second.start = start;
    }
  }
  return [first, second];
}

/** The pace at which a clip plays from its first frame so many frames of its take. */
export function paceToFit(length: number, frames: number): number {
  return Math.min(100, Math.max(0.01, frames / length));
}
