import { titleTracks, type PromoDocument, type Title } from '../document/index.ts';
import { clamp } from '../maths/index.ts';
import { ENDS, SIDES } from './reframe.ts';
import { filledTitle } from './variables.ts';

/** How large a title's text is with its box, pixels, on how many lines it stands, and how wide its widest word is. */
export interface TitleBox {
  wide: number;
  high: number;
  lines: number;
  widest: number;
}
export type TitleBoxOf = (title: Title, width: number) => TitleBox;

/** A size smaller by a step, and the least share of its size that a title is brought to so that it takes no more lines. */
const STEP = 0.95;
const LEAST = 0.6;

/** A box by its edges, shares of the picture. */
interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/**
 * Titles of a cut in another proportion, brought into its safe area as they are really set: no word is wider than that, a title takes
 * at most a line more than it did, and titles that did not lie over each other do not now. Keyed places are left as they are.
 * @param before the cut that it is a copy of. @param after the copy, its titles in the same order. @param boxOf measures a title.
 */
export function fitTitles(before: PromoDocument, after: PromoDocument, boxOf: TitleBoxOf): Title[] {
  const old = before.titles.map((title) => measured(title, before, boxOf));
  const made: Array<{ title: Title; box: Box }> = [];
  after.titles.forEach((title, n) => {
    const keyed = titleTracks(after, title.id).some(({ path }) => path === 'x' || path === 'y');
    if (title.along || keyed) {
      made.push({ title, box: measured(title, after, boxOf).box });
      return;
    }
    const fitted = sized(title, after, boxOf, (old[n]?.lines ?? 1) + 1);
    const placed = within(fitted, after, boxOf);
    // Those that lay apart and are seen at once stay apart: the later of them gives way.
    for (let k = 0; k < n; k++) {
      const other = made[k];
      const together =
        other.title.start < title.start + title.length && title.start < other.title.start + other.title.length;
      if (!together || !meet(placed.box, other.box) || (old[n] && meet(old[n].box, old[k].box))) continue;
      const down = (old[n]?.box.top ?? 1) >= (old[k]?.box.top ?? 0);
      const by = down ? other.box.bottom - placed.box.top : other.box.top - placed.box.bottom;
      const room = down ? 1 - ENDS - placed.box.bottom : ENDS - placed.box.top;
      shift(placed, down ? Math.min(by, Math.max(0, room)) : Math.max(by, Math.min(0, room)));
    }
    made.push(placed);
  });
  return made.map(({ title }) => title);
}

function measured(title: Title, promo: PromoDocument, boxOf: TitleBoxOf): { box: Box; lines: number } {
  const { width, height } = promo;
  const { wide, high, lines } = boxOf(filledTitle(title, promo.variables), width);
  const left = title.x - ({ left: 0, centre: 0.5, right: 1 }[title.align] * wide) / width;
  const [across, down] = [wide / width, high / height];
  return { box: { left, right: left + across, top: title.y - down / 2, bottom: title.y + down / 2 }, lines };
}

/** A title as large as its widest word leaves room for, and as takes no more lines than it may, down to a share of its size. */
function sized(title: Title, promo: PromoDocument, boxOf: TitleBoxOf, lines: number): Title {
  const room = 1 - 2 * SIDES;
  const set = (size: number): Title => ({ ...title, size, measure: Math.min(title.measure ?? room, room) });
  const box = (size: number): TitleBox => boxOf(filledTitle(set(size), promo.variables), promo.width);
  let { size } = title;
  const { widest } = box(size);
  if (widest > room * promo.width) size *= (room * promo.width) / widest;
  const least = Math.min(size, title.size * LEAST);
  while (box(size).lines > lines && size * STEP >= least) size *= STEP;
  return set(Math.max(4, Number(size.toFixed(2))));
}

/** A title whose box is in the safe area, or in its middle where that is too small for it. */
function within(title: Title, promo: PromoDocument, boxOf: TitleBoxOf): { title: Title; box: Box } {
  const { box } = measured(title, promo, boxOf);
  const into = (low: number, high: number, edge: number): number =>
    high - low > 1 - 2 * edge ? 0.5 - (low + high) / 2 : clamp(0, edge - low, 1 - edge - high);
  const [across, down] = [into(box.left, box.right, SIDES), into(box.top, box.bottom, ENDS)];
  const placed = {
    title: { ...title, x: title.x + across },
    box: { ...box, left: box.left + across, right: box.right + across },
  };
  shift(placed, down);
  return placed;
}

/** Carries a title down. Changes what is given. */
function shift(placed: { title: Title; box: Box }, by: number): void {
  const { title, box } = placed;
  placed.title = { ...title, y: Number((title.y + by).toFixed(5)), x: Number(title.x.toFixed(5)) };
  placed.box = { ...box, top: box.top + by, bottom: box.bottom + by };
}

const meet = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
