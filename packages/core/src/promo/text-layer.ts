import type { TextDrawer } from '../composite/index.ts';
import { newTitle } from '../document/index.ts';
import type { TitleDrawer } from './assemble.ts';

/** Draws text layers of a composite as titles are drawn. */
export function textDrawer(painter: TitleDrawer): TextDrawer {
  return ({ text, font, size, scale, tracking, colour, align, x, y }, width, height) =>
    painter.draw(
      newTitle('layer', {
        ...{ text, font, size: size * scale * height, tracking, colour, align },
        ...{ x: 0.5 + (x * height) / width, y: 0.5 - y, start: 0, length: 1 },
        ...{ arrive: { kind: 'none', frames: 0 }, leave: { kind: 'none', frames: 0 } },
      }),
      0,
      width,
      height,
    );
}
