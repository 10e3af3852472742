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
