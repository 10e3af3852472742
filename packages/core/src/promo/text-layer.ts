import type { TextDrawer } from '../composite/index.ts';
import { newTitle } from '../document/index.ts';
import type { TitlePainter } from './draw-title.ts';

/** Draws text layers of a composite as titles are drawn, and their lines. */
export function textDrawer(painter: Pick<TitlePainter, 'draw' | 'lines'>): TextDrawer {
  return (layer, width, height, vector) => {
    if (layer.kind !== 'text') return painter.lines(layer, width, height, vector);
    const { text, font, size, scale, tracking, colour, align, x, y } = layer;
    const title = newTitle('layer', {
      ...{ text, font, size: size * scale * height, tracking, colour, align },
      ...{ x: 0.5 + (x * height) / width, y: 0.5 - y, start: 0, length: 1 },
      ...{ arrive: { kind: 'none', frames: 0 }, leave: { kind: 'none', frames: 0 } },
    });
    return painter.draw(title, 0, width, height);
  };
}
