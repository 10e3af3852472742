/** Part of a picture, in shares of it from the top left. */
export interface Part {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Smallest edge of a part, as a share of the picture. */
const LEAST = 0.04;
const round = (v: number): number => Math.round(v * 1000) / 1000;
const within = (v: number, lo: number, hi: number): number => Math.min(hi, Math.max(lo, v));

/** The part between two corners in any order, never smaller than can be seen, inside the picture. */
export function partBetween(ax: number, ay: number, bx: number, by: number): Part {
  const span = (a: number, b: number): [number, number] => {
    const lo = within(Math.min(a, b), 0, 1 - LEAST);
    return [round(lo), round(within(Math.max(a, b), lo + LEAST, 1))];
  };
  const [x0, x1] = span(ax, bx);
  const [y0, y1] = span(ay, by);
  return { x0, y0, x1, y1 };
}

/** The part moved, or with `grow` its far corner moved, by shares of the picture. */
export function nudgePart(part: Part, dx: number, dy: number, grow: boolean): Part {
  if (grow) return partBetween(part.x0, part.y0, part.x1 + dx, part.y1 + dy);
  const x = within(dx, -part.x0, 1 - part.x1);
  const y = within(dy, -part.y0, 1 - part.y1);
  return { x0: round(part.x0 + x), y0: round(part.y0 + y), x1: round(part.x1 + x), y1: round(part.y1 + y) };
}
