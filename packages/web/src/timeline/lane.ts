/** A lane runs over frames 0..length; positions are shares of its width, so that nothing has to be measured to draw. */
export function shareOf(frame: number, length: number): number {
  return frame / Math.max(1, length);
}

export function percent(frame: number, length: number): string {
  return `${(shareOf(frame, length) * 100).toFixed(4)}%`;
}

/** The frame (fractional) under a pointer. */
export function frameUnder(clientX: number, box: { left: number; width: number }, length: number): number {
  return ((clientX - box.left) / Math.max(1, box.width)) * length;
}

/** Seconds between labels of the ruler, so that at most `most` stand on it. */
export function labelStep(seconds: number, most: number): number {
  return [0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300].find((step) => seconds / step <= most) ?? 600;
}

/** The frame that a key of a playhead asks for: arrows by one, Page keys by ten, Home and End; null for any other key. */
export function frameByKey(key: string, frame: number, length: number): number | null {
  const step = { ArrowLeft: -1, ArrowRight: 1, PageUp: -10, PageDown: 10 }[key];
  if (step) return Math.min(length - 1, Math.max(0, frame + step));
  if (key === 'Home') return 0;
  return key === 'End' ? length - 1 : null;
}
