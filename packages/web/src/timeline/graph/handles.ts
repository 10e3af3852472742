import { EASE_LIMITS, type EaseShape, type Key, type LinkedEase } from '@tender-orbit/core/document';
import { resolveEase } from '@tender-orbit/core/motion';

export type HandleEnd = 'out' | 'in';

/** A handle of a key: `out` lies in the span after it, `in` in the span before. Frames and the document's values. */
export interface Handle {
  end: HandleEnd;
  /** Index of the key whose ease holds it. */
  holder: number;
  from: { frame: number; value: number };
  at: { frame: number; value: number };
}

type Bezier = Extract<EaseShape, { kind: 'bezier' }>;

function bezierOf(key: Key<number> | undefined, linked: readonly LinkedEase[]): Bezier | null {
  const ease = key && resolveEase(key.ease, linked);
  return typeof ease === 'object' && ease.kind === 'bezier' ? ease : null;
}

/** The handles of a key: those of the spans on both sides that are shaped by handles. */
export function handlesAt(keys: ReadonlyArray<Key<number>>, i: number, linked: readonly LinkedEase[]): Handle[] {
  const handles: Handle[] = [];
  const key = keys[i];
  if (!key) return handles;
  const place = (holder: number, [along, way]: readonly number[]): Handle['at'] => {
    const [a, b] = [keys[holder], keys[holder + 1]];
    return { frame: a.frame + (b.frame - a.frame) * along, value: a.value + (b.value - a.value) * way };
  };
  const before = keys[i - 1] && bezierOf(keys[i - 1], linked);
  if (before) handles.push({ end: 'in', holder: i - 1, from: key, at: place(i - 1, before.in) });
  const after = keys[i + 1] && bezierOf(key, linked);
  if (after) handles.push({ end: 'out', holder: i, from: key, at: place(i, after.out) });
  return handles;
}

const rounded = (v: number): number => Number(v.toFixed(4));

/** The ease of a span with a handle put to a frame and value; along the span it stays within it. */
export function withHandle(
  keys: ReadonlyArray<Key<number>>,
  { end, holder }: Pick<Handle, 'end' | 'holder'>,
  to: { frame: number; value: number },
  linked: readonly LinkedEase[],
): Bezier | null {
  const ease = bezierOf(keys[holder], linked);
  const [a, b] = [keys[holder], keys[holder + 1]];
  if (!ease || !b) return null;
  const along = (to.frame - a.frame) / (b.frame - a.frame);
  const way = b.value === a.value ? 0 : (to.value - a.value) / (b.value - a.value);
  const [low, high] = EASE_LIMITS.reach;
  return { ...ease, [end]: [rounded(Math.min(1, Math.max(0, along))), rounded(Math.min(high, Math.max(low, way)))] };
}

/** Values a frame that a handle leads with; null for one of no length. */
function slopeOf({ from, at }: Handle): number | null {
  const run = at.frame - from.frame;
  return Math.abs(run) < 1e-6 ? null : (at.value - from.value) / run;
}

/** Whether the handles of a key lie on one line: then they turn together. */
export function joined(handles: readonly Handle[]): boolean {
  if (handles.length < 2) return false;
  const [a, b] = handles.map(slopeOf);
  if (a === null || b === null) return false;
  return Math.abs(a - b) <= 1e-3 * Math.max(1e-9, Math.abs(a), Math.abs(b));
}

/** Where the other handle of a key goes when one is put somewhere: onto the line through both, as far along as it was. */
export function opposite(handle: Handle, other: Handle, to: { frame: number; value: number }): Handle['at'] {
  const run = to.frame - handle.from.frame;
  if (Math.abs(run) < 1e-6) return other.at;
  const slope = (to.value - handle.from.value) / run;
  return { frame: other.at.frame, value: other.from.value + slope * (other.at.frame - other.from.frame) };
}
