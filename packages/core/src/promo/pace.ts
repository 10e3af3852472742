import { FASTEST_PACE, type Clip, type Pace, type PacePoint, type PromoDocument } from '../document/index.ts';

/** What of a clip says how it plays its take. */
type Paced = Pick<Clip, 'length' | 'pace'>;

const PLAIN: readonly PacePoint[] = [{ at: 0, speed: 1, ramp: 'hold' }];

/** The speeds of a clip as points, at least one. */
export function pacePoints({ length, pace }: Paced): readonly PacePoint[] {
  if (!pace) return PLAIN;
  if (pace.points && pace.points.length > 0) return pace.points;
  return [
    { at: 0, speed: pace.from, ramp: 'even' },
    { at: length, speed: pace.to, ramp: 'even' },
  ];
}

/** Frames of the take played in the first `u` frames from a point to the next, `d` later: the integral of its ramp. */
function rampPlayed({ speed, ramp }: PacePoint, next: number, d: number, u: number): number {
  const t = u / d;
  if (ramp === 'hold') return speed * u;
  if (ramp === 'even') return speed * u + ((next - speed) * u * t) / 2;
  // Of 3t^2 - 2t^3, which is level at both ends.
  return speed * u + (next - speed) * d * (t * t * t - (t * t * t * t) / 2);
}

/** Frames of its take that a clip plays from its first point to a frame of its own; below 0 before it. */
function playedSince(points: readonly PacePoint[], at: number): number {
  const first = points[0];
  if (at <= first.at) return first.speed * (at - first.at);
  let played = 0;
  for (let n = 0; n + 1 < points.length; n++) {
    const [point, next] = [points[n], points[n + 1]];
    const d = next.at - point.at;
    if (d <= 0) continue;
    if (at <= next.at) return played + rampPlayed(point, next.speed, d, at - point.at);
    played += rampPlayed(point, next.speed, d, d);
  }
  const last = points[points.length - 1];
  return played + last.speed * (at - last.at);
}

/** Frames of its take that a clip plays from its first frame to one of its own: the integral of its speed. */
export function framesPlayed(clip: Paced, at = clip.length): number {
  if (!clip.pace) return at;
  const points = pacePoints(clip);
  return playedSince(points, at) - playedSince(points, 0);
}

/** Frames of the take in a frame of the promo, at a frame of a clip. */
export function speedAt(clip: Paced, at: number): number {
  const points = pacePoints(clip);
  const n = points.findLastIndex((point) => point.at <= at);
  if (n < 0) return points[0].speed;
  const [point, next] = [points[n], points[n + 1]];
  if (!next || point.ramp === 'hold') return point.speed;
  const t = (at - point.at) / (next.at - point.at);
  return point.speed + (next.speed - point.speed) * (point.ramp === 'even' ? t : t * t * (3 - 2 * t));
}

/**
 * Where in its take a clip is at a frame of its own, in frames of the take and parts of them: the integral of its speed. Before the
 * clip's first frame and after its last, where a transition needs it, the speed goes on as it is there, or as its points say. A clip
 * that plays the other way shows the same frames from the last to the first.
 */
export function takeTime(clip: Clip, at: number): number {
  const played = framesPlayed(clip, at);
  // The last frame of a clip that goes on for its whole length is the one before its end.
  return clip.start + (clip.pace?.reverse ? framesPlayed(clip) - 1 - played : played);
}

/** A pace whose points lie so many frames later in its clip, its ends as they are then in a clip of a length. */
export function shiftedPace(pace: Pace, by: number, length: number): Pace {
  const points = pace.points?.map((point) => ({ ...point, at: point.at + by }));
  const now = { ...pace, ...(points && { points }) };
  return { ...now, from: speedAt({ length, pace: now }, 0), to: speedAt({ length, pace: now }, length) };
}

/** A frame of a take and how much of the picture it makes. */
export interface TakeFrame {
  take: string;
  /** A part of a frame where it is carried along the take's motion. */
  frame: number;
  weight: number;
}

/** Speeds so near to a whole frame that no picture in between is asked for. */
const WHOLE = 1e-6;

/** Times so near to one that was rendered that its frame is shown for them, in frames. */
const NEAR = 0.01;

/**
 * The times at which in-betweens of a clip are rendered: those of all its frames, and of so many before and after them, that lie within its
 * take, each once, from the earliest to the latest.
 */
export function renderTimes(clip: Clip, takeLength: number, before: number, after: number): number[] {
  const times = new Set<number>();
  for (let at = -before; at < clip.length + after; at++) {
    const time = takeTime(clip, at);
    times.add(Math.round(Math.min(takeLength - 1, Math.max(0, time)) * 1000) / 1000);
  }
  return [...times].sort((a, b) => a - b);
}

/** The frame that was rendered for a time; null when none was. */
function renderedAt(times: readonly number[], time: number): number | null {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle] < time - NEAR) low = middle + 1;
    else high = middle;
  }
  // The nearer of two that are both near.
  if (low + 1 < times.length && Math.abs(times[low + 1] - time) < Math.abs(times[low] - time)) low++;
  return low < times.length && Math.abs(times[low] - time) <= NEAR ? low : null;
}

/**
 * The frames of its take that a clip shows at a frame of its own; none without a take. Past the take's ends the last one stays.
 * @param rendered whether the take of its rendered in-betweens is there.
 */
export function framesShown(clip: Clip, at: number, takeLength: number, rendered = false): TakeFrame[] {
  if (clip.take === '' || takeLength <= 0) return [];
  const time = Math.min(takeLength - 1, Math.max(0, takeTime(clip, at)));
  const { between, rendered: exact } = clip.pace ?? {};
  if (rendered && between === 'rendered' && exact) {
    const frame = renderedAt(exact.times, time);
    if (frame !== null) return [{ take: exact.take, frame, weight: 1 }];
  }
  const low = Math.floor(time + WHOLE);
  const far = time - low;
  const { take } = clip;
  if (between === 'compensated' && far >= WHOLE && low + 1 < takeLength)
    return [{ take, frame: Math.round(time * 1000) / 1000, weight: 1 }];
  if (between !== 'blend' && between !== 'rendered')
    return [{ take, frame: Math.min(takeLength - 1, Math.floor(time + 0.5)), weight: 1 }];
  if (far < WHOLE || low + 1 >= takeLength) return [{ take, frame: low, weight: 1 }];
  return [
    { take, frame: low, weight: 1 - far },
    { take, frame: low + 1, weight: far },
  ];
}

/** Takes that cuts show between their frames, motion-compensated. */
export const compensatedTakes = (cuts: ReadonlyArray<Pick<PromoDocument, 'clips'>>): ReadonlySet<string> =>
  new Set(cuts.flatMap(({ clips }) => clips.filter((c) => c.pace?.between === 'compensated').map((c) => c.take)));

/**
 * What the two halves of a clip become that is split at one of its frames: together they show what the whole showed, to the nearest
 * frame of the take.
 */
export function halvesOf(clip: Clip, at: number): [first: Partial<Clip>, second: Partial<Clip>] {
  const { start, length, pace } = clip;
  const first: Partial<Clip> = {};
  const second: Partial<Clip> = { start: Math.round(takeTime(clip, at)) };
  if (pace) {
    const speed = speedAt(clip, at);
    first.pace = { ...pace, to: speed };
    second.pace = pace.points ? shiftedPace(pace, -at, length - at) : { ...pace, from: speed };
    if (pace.reverse) {
      // Played the other way, the first half has the later frames.
      first.start = Math.round(start + framesPlayed({ length: length - at, pace: second.pace }));
      second.start = start;
    }
  }
  return [first, second];
}

/** The pace of a clip as it is but so many times as fast that it plays so many frames of its take; as far as a pace may go. */
export function paceToFit(clip: Paced, frames: number): Pick<Pace, 'from' | 'to' | 'points'> {
  const played = framesPlayed(clip);
  const even = played <= 0 || !clip.pace;
  const factor = even ? frames / clip.length : frames / played;
  const fitted = (speed: number): number => Math.min(FASTEST_PACE, speed * factor);
  if (even) return { from: Math.max(0.01, fitted(1)), to: Math.max(0.01, fitted(1)) };
  const { from, to, points } = clip.pace!;
  return {
    ...{ from: fitted(from), to: fitted(to) },
    ...(points && { points: points.map((point) => ({ ...point, speed: fitted(point.speed) })) }),
  };
}

/** Puts a point where it belongs in a clip's pace, in place of one at that very frame. */
export function withPoint(clip: Paced, point: PacePoint): PacePoint[] {
  return [...pacePoints(clip).filter(({ at }) => at !== point.at), point].sort((a, b) => a.at - b.at);
}

/** The points of a clip's pace as it stands still for so many frames from one of its own, and goes on where it was: it plays less. */
export function withHold(clip: Paced, from: number, frames: number): PacePoint[] {
  const speed = speedAt(clip, from);
  const points = pacePoints(clip);
  const ramp = points.findLast(({ at }) => at <= from)?.ramp === 'hold' ? 'hold' : 'even';
  return [
    ...points.filter(({ at }) => at < from),
    // Two at one place: it comes to the first and goes on from the second.
    { at: from, speed, ramp: 'hold' },
    { at: from, speed: 0, ramp: 'hold' },
    { at: from + frames, speed, ramp },
    ...points.filter(({ at }) => at > from).map((point) => ({ ...point, at: point.at + frames })),
  ];
}
