import fitCurve from 'fit-curve';
import type { Spot, StrokePoint } from '@tender-orbit/core/document';

/** How far a fitted line may be from the drawn one, a share of the picture's height. */
const NEAR = 0.004;
/** Points that a mask may have. */
const MOST = 200;

/**
 * A line drawn by hand as cubic Beziers (Schneider 1990), as few as go along it closely.
 * @param closed ends where it began. @returns null for a line that goes nowhere.
 */
export function fittedPath(drawn: readonly Spot[], closed: boolean): StrokePoint[] | null {
  const points = drawn.filter((p, i) => i === 0 || away(p, drawn[i - 1]) > 1e-4);
  if (points.length < 2 || Math.max(...points.map((p) => away(p, points[0]))) < 0.01) return null;
  const line = closed ? [...points, points[0]] : points;
  for (let near = NEAR; ; near *= 2) {
    const curves = fitCurve<[number, number]>(
      line.map(([x, y]) => [x, y]),
      near * near,
    );
    const corners = curves.length + (closed ? 0 : 1);
    if (corners > MOST) continue;
    return Array.from({ length: corners }, (_, i) => {
      const [next, before] = [curves[i], curves[i - 1] ?? (closed ? curves[curves.length - 1] : undefined)];
      const at = next ? next[0] : before![3];
      const from = (p: readonly number[] | undefined): Spot =>
        p ? [round(p[0] - at[0]), round(p[1] - at[1])] : [0, 0];
      return { at: [round(at[0]), round(at[1])], in: from(before?.[2]), out: from(next?.[1]) };
    });
  }
}

const round = (v: number): number => Math.round(v * 1e4) / 1e4;
const away = (a: Spot, b: Spot): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
