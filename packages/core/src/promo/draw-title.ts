import { pow } from '../maths/index.ts';
import type { CanvasKit, Paragraph, TypefaceFontProvider } from 'canvaskit-wasm';
import type { Arrival, Title } from '../document/index.ts';
import type { Overlay } from '../picture/index.ts';
import { TITLE_FONTS } from './fonts.ts';

/** Where a title is in its arrival or leaving: 0 gone, 1 fully there; offsets in em. */
export interface TitlePose {
  opacity: number;
  across: number;
  down: number;
}

/** The pose of a title at a promo frame; null when it is not on. */
export function titlePose(title: Title, frame: number): TitlePose | null {
  const at = frame - title.start;
  if (at < 0 || at >= title.length) return null;
  const arriving = progress(title.arrive, at + 1);
  const leaving = progress(title.leave, title.length - at);
  const pose = { opacity: 1, across: 0, down: 0 };
  const apply = (arrival: Arrival, t: number, side: number): void => {
    if (t >= 1 || arrival.kind === 'none') return;
    const eased = 1 - pow(1 - t, 3);
    pose.opacity *= arrival.kind === 'fade' ? t : eased;
    if (arrival.kind === 'rise') pose.down += (1 - eased) * 0.6 * side;
    if (arrival.kind === 'slide') pose.across -= (1 - eased) * 1.6 * side;
  };
  apply(title.arrive, arriving, 1);
  apply(title.leave, leaving, -1);
  return pose;
}

/** `at` counts from 1, so that the first frame of an n-frame fade already shows 1 / (n + 1). */
function progress(arrival: Arrival, at: number): number {
  return arrival.frames > 0 ? Math.min(1, at / (arrival.frames + 1)) : 1;
}

/** Share of the picture's width that text may fill before it wraps. */
const MEASURE = 0.92;
/** Room round the text for letters that overhang their boxes, in em. */
const MARGIN = 0.35;

/**
 * Draws titles with CanvasKit on a CPU raster surface, which gives the same bytes in Node and in browsers. Holds
 * native memory: call dispose().
 */
export class TitlePainter {
  private readonly provider: TypefaceFontProvider;
  private readonly ck: CanvasKit;

  /** @param fonts the files of every TITLE_FONTS entry, by path. A font that is missing falls back to the others. */
  constructor(ck: CanvasKit, fonts: ReadonlyMap<string, ArrayBuffer>) {
    this.ck = ck;
    this.provider = ck.TypefaceFontProvider.Make();
    for (const font of TITLE_FONTS) {
      font.files.forEach((file, i) => {
        const bytes = fonts.get(file);
        if (bytes) this.provider.registerFont(bytes, i === 0 ? font.id : `${font.id}-more`);
      });
    }
  }

  dispose(): void {
    this.provider.delete();
  }

  /** The title as an overlay for a picture of the given size at a promo frame; null when there is nothing to draw. */
  draw(title: Title, frame: number, width: number, height: number): Overlay | null {
    const pose = titlePose(title, frame);
    if (!pose || pose.opacity <= 0 || title.text.trim() === '') return null;
    const { ck } = this;
    const paragraph = this.layOut(title, width);
    const textWidth = Math.min(width * MEASURE, paragraph.getLongestLine());
    const textHeight = paragraph.getHeight();
    const anchor = { left: 0, centre: 0.5, right: 1 }[title.align];
    const x = title.x * width - anchor * textWidth + pose.across * title.size;
    const y = title.y * height - textHeight / 2 + pose.down * title.size;
    const margin = title.size * MARGIN;
    const left = Math.max(0, Math.floor(x - margin));
    const top = Math.max(0, Math.floor(y - margin));
    const w = Math.min(width, Math.ceil(x + textWidth + margin)) - left;
    const h = Math.min(height, Math.ceil(y + textHeight + margin)) - top;
    if (w <= 0 || h <= 0) {
      paragraph.delete();
      return null;
    }
    const info = {
      width: w,
      height: h,
      colorType: ck.ColorType.RGBA_8888,
      alphaType: ck.AlphaType.Premul,
      colorSpace: ck.ColorSpace.SRGB,
    };
    const memory = ck.Malloc(Uint8Array, w * h * 4);
    // CanvasKit does not clear memory that it is handed.
    (memory.toTypedArray() as Uint8Array).fill(0);
    const surface = ck.MakeRasterDirectSurface(info, memory, w * 4);
    if (!surface) {
      ck.Free(memory);
      paragraph.delete();
      return null;
    }
    // The paragraph is laid out over the full measure and aligned in it; the drawing starts at its aligned edge.
    const slack = width * MEASURE - textWidth;
    surface.getCanvas().drawParagraph(paragraph, x - left - anchor * slack, y - top);
    surface.flush();
    const data = (memory.toTypedArray() as Uint8Array).slice();
    surface.delete();
    ck.Free(memory);
    paragraph.delete();
    if (pose.opacity < 1) for (let i = 0; i < data.length; i++) data[i] = data[i] * pose.opacity + 0.5;
    return { left, top, width: w, height: h, data };
  }

  private layOut(title: Title, width: number): Paragraph {
    const { ck } = this;
    const align = { left: ck.TextAlign.Left, centre: ck.TextAlign.Center, right: ck.TextAlign.Right }[title.align];
    const families = [title.font, `${title.font}-more`, ...TITLE_FONTS.map((f) => f.id)];
    const style = new ck.ParagraphStyle({
      textAlign: align,
      textStyle: {
        color: ck.parseColorString(title.colour),
        fontFamilies: families,
        fontSize: title.size,
        letterSpacing: title.tracking * title.size,
        heightMultiplier: 1.15,
      },
    });
    const builder = ck.ParagraphBuilder.MakeFromFontProvider(style, this.provider);
    builder.addText(title.text);
    const paragraph = builder.build();
    builder.delete();
    paragraph.layout(width * MEASURE);
    return paragraph;
  }
}
