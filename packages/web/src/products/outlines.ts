import opentype from 'opentype.js';
import frauncesUrl from '@fontsource/fraunces/files/fraunces-latin-600-normal.woff?url';
import hankenUrl from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff?url';
import { ShapePath, type Vector2 } from 'three';
import { SVGLoader } from 'three/examples/jsm/loaders/SVGLoader.js';
import { Problem } from '@tender-orbit/core/problem';

/** Letters that can be given depth. */
export const LETTERS = [
  { id: 'fraunces', label: 'Fraunces (serif)', url: frauncesUrl },
  { id: 'hanken', label: 'Hanken Grotesk (sans)', url: hankenUrl },
] as const;
export type Letters = (typeof LETTERS)[number]['id'];

/** Steps along a curve of an outline. */
const DIVISIONS = 8;
const LIMIT = 2000;

/** The outlines of words, at height 1, y up. @throws Problem when nothing is left to cut out. */
export async function outlinesOfWords(words: string, letters: Letters): Promise<number[][]> {
  const { url } = LETTERS.find((l) => l.id === letters)!;
  const font = opentype.parse(await (await fetch(url)).arrayBuffer());
  const path = new ShapePath();
  for (const c of font.getPath(words, 0, 0, 100).commands) {
    if (c.type === 'M') path.moveTo(c.x, c.y);
    else if (c.type === 'L') path.lineTo(c.x, c.y);
    else if (c.type === 'Q') path.quadraticCurveTo(c.x1, c.y1, c.x, c.y);
    else if (c.type === 'C') path.bezierCurveTo(c.x1, c.y1, c.x2, c.y2, c.x, c.y);
  }
  return normalised(
    path.subPaths.map((sub) => sub.getPoints(DIVISIONS)),
    `"${words}"`,
  );
}

/** The filled outlines of an SVG drawing, at height 1, y up. @throws Problem when there are none. */
export function outlinesOfSvg(text: string, name: string): number[][] {
  const { paths } = new SVGLoader().parse(text);
  const filled = paths.filter((p) => (p.userData as { style?: { fill?: string } } | undefined)?.style?.fill !== 'none');
  return normalised(
    filled.flatMap((path) => path.subPaths.map((sub) => sub.getPoints(DIVISIONS))),
    `"${name}"`,
  );
}

function normalised(outlines: Vector2[][], what: string): number[][] {
  const usable = outlines.filter((o) => o.length > 2);
  const all = usable.flat();
  if (all.length === 0)
    throw new Problem(
      'outline/none',
      `${what} has no filled outlines: convert strokes and text to filled paths first.`,
    );
  if (usable.length > LIMIT)
    throw new Problem('outline/many', `${what} has ${usable.length} outlines; the limit is ${LIMIT}: simplify it.`);
  const [left, low, high] = all.reduce(
    ([l, a, b], p) => [Math.min(l, p.x), Math.min(a, p.y), Math.max(b, p.y)],
    [Infinity, Infinity, -Infinity],
  );
  const size = high - low || 1;
  // Drawings count y downward.
  const round = (v: number): number => Math.round(v * 1e5) / 1e5;
  return usable.map((outline) => outline.flatMap((p) => [round((p.x - left) / size), round((high - p.y) / size)]));
}
