import { pow } from '../maths/index.ts';
import type { Canvas, CanvasKit, Paragraph, TextStyle, TypefaceFontProvider } from 'canvaskit-wasm';
import type { VectorPicture } from '../composite/index.ts';
import type { Arrival, LayerOf, Title } from '../document/index.ts';
import type { Overlay } from '../picture/index.ts';
import { drawLines } from './draw-lines.ts';
import { TITLE_FONTS } from './fonts.ts';
import { rasterOverlay } from './raster-overlay.ts';
import { partTimes, titleParts, type TitlePart } from './title-parts.ts';

/** Where a title is in its arrival or leaving: 0 gone, 1 fully there; offsets in em. */
export interface TitlePose {
  opacity: number;
  across: number;
  down: number;
  scale: number;
}

/** The pose of a title at a promo frame; null when it is not on. */
export function titlePose(title: Title, frame: number): TitlePose | null {
  // Parts come by themselves.
  return arrivalPose(title, frame, title.parts !== undefined);
}

/** The pose at a promo frame of what arrives, stays and leaves; null when it is not on. @param there whether it need not arrive. */
export function arrivalPose(
  thing: Pick<Title, 'start' | 'length' | 'arrive' | 'leave'>,
  frame: number,
  there = false,
): TitlePose | null {
  const at = frame - thing.start;
  if (at < 0 || at >= thing.length) return null;
  const arriving = there ? 1 : progress(thing.arrive.frames, at + 1);
  const pose = { opacity: 1, across: 0, down: 0, scale: 1 };
  apply(pose, thing.arrive, arriving, 1);
  apply(pose, thing.leave, progress(thing.leave.frames, thing.length - at), -1);
  return pose;
}

/** The pose of each part of a title at a promo frame, besides that of the whole. */
export function partPoses(title: Title, frame: number, count: number): TitlePose[] {
  return partTimes(title, count).map(({ begin, frames }) => {
    const pose = { opacity: 1, across: 0, down: 0, scale: 1 };
    const at = frame - title.start - begin + 1;
    apply(pose, title.arrive, at <= 0 ? 0 : progress(frames, at), 1);
    return pose;
  });
}

function apply(pose: TitlePose, { kind }: Arrival, t: number, side: number): void {
  if (t >= 1 || kind === 'none') return;
  if (kind === 'type') {
    pose.opacity *= t > 0 ? 1 : 0;
    return;
  }
  const eased = 1 - pow(1 - t, 3);
  pose.opacity *= kind === 'fade' ? t : eased;
  if (kind === 'rise') pose.down += (1 - eased) * 0.6 * side;
  if (kind === 'slide') pose.across -= (1 - eased) * 1.6 * side;
  if (kind === 'scale') pose.scale *= 1 + (1 - eased) * 0.5 * side;
}

/** `at` counts from 1, so that the first frame of an n-frame fade already shows 1 / (n + 1). */
function progress(frames: number, at: number): number {
  return frames > 0 ? Math.min(1, at / (frames + 1)) : 1;
}

/** Share of the picture's width that text may fill before it wraps. */
const MEASURE = 0.92;
/** Letters that are seen, and how much. */
type Seen = TitlePart & { opacity: number };

/** Room round the text for letters that overhang their boxes, in em. */
const MARGIN = 0.35;
/** And for parts that come from elsewhere. */
const MOVING_MARGIN = 2;

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
    const reach =
      title.size * (title.parts || pose.scale > 1 ? MOVING_MARGIN : MARGIN) +
      (pose.scale > 1 ? (pose.scale - 1) * Math.max(textWidth, textHeight) * 0.5 : 0) +
      title.size * dressReach(title);
    const left = Math.max(0, Math.floor(x - reach));
    const top = Math.max(0, Math.floor(y - reach));
    const w = Math.min(width, Math.ceil(x + textWidth + reach)) - left;
    const h = Math.min(height, Math.ceil(y + textHeight + reach)) - top;
    if (w <= 0 || h <= 0) {
      paragraph.delete();
      return null;
    }
    // The paragraph is laid out over the full measure and aligned in it; the drawing starts at its aligned edge.
    const slack = width * MEASURE - textWidth;
    const origin = [x - left - anchor * slack, y - top] as const;
    const middle = [x - left + textWidth / 2, y - top + textHeight / 2] as const;
    const overlay = rasterOverlay(ck, { left, top, width: w, height: h }, (canvas) => {
      if (pose.scale !== 1) canvas.concat(ck.Matrix.scaled(pose.scale, pose.scale, ...middle));
      this.drawBox(canvas, title, [x - left, y - top, textWidth, textHeight]);
      if (title.parts) this.drawParts(canvas, title, frame, width, origin);
      else {
        this.drawOutline(canvas, title, width, origin);
        canvas.drawParagraph(paragraph, ...origin);
      }
    });
    paragraph.delete();
    if (!overlay) return null;
    const { data } = overlay;
    if (pose.opacity < 1) for (let i = 0; i < data.length; i++) data[i] = data[i] * pose.opacity + 0.5;
    return overlay;
  }

  /** A stroke or a vector picture over a picture of the given size; null when nothing of it is seen. */
  lines(
    layer: LayerOf<'stroke'> | LayerOf<'logo'>,
    width: number,
    height: number,
    vector?: VectorPicture | null,
  ): Overlay | null {
    return drawLines(this.ck, layer, width, height, vector);
  }

  /** Each part by itself: the whole text with all others clear, so that every letter stays where it is. */
  private drawParts(canvas: Canvas, title: Title, frame: number, width: number, [x, y]: readonly [number, number]) {
    const { ck } = this;
    const parts = titleParts(title.text, title.parts!.part);
    partPoses(title, frame, parts.length).forEach(({ opacity, across, down, scale }, i) => {
      if (opacity <= 0) return;
      const paragraph = this.layOut(title, width, { ...parts[i], opacity });
      const [box] = paragraph.getRectsForRange(
        parts[i].from,
        parts[i].to,
        ck.RectHeightStyle.Tight,
        ck.RectWidthStyle.Tight,
      );
      canvas.save();
      if (scale !== 1 && box) {
        const [l, t, r, b] = box.rect;
        canvas.concat(ck.Matrix.scaled(scale, scale, x + (l + r) / 2, y + (t + b) / 2));
      }
      const at = [x + across * title.size, y + down * title.size] as const;
      this.drawOutline(canvas, title, width, at, { ...parts[i], opacity });
      canvas.drawParagraph(paragraph, ...at);
      canvas.restore();
      paragraph.delete();
    });
  }

  /** The box behind a text: its layout's size and some room. */
  private drawBox(
    canvas: Canvas,
    { dress, size }: Title,
    [x, y, w, h]: readonly [number, number, number, number],
  ): void {
    if (!dress || dress.box <= 0) return;
    const { ck } = this;
    const pad = dress.boxPadding * size;
    const radius = dress.boxRadius * size;
    const paint = new ck.Paint();
    paint.setAntiAlias(true);
    paint.setColor(this.colour(dress.boxColour, dress.box));
    canvas.drawRRect(ck.RRectXY(ck.XYWHRect(x - pad, y - pad / 2, w + 2 * pad, h + pad), radius, radius), paint);
    paint.delete();
  }

  private drawOutline(canvas: Canvas, title: Title, width: number, at: readonly [number, number], only?: Seen): void {
    if (!title.dress || title.dress.outline <= 0) return;
    const paragraph = this.layOut(title, width, only, true);
    canvas.drawParagraph(paragraph, ...at);
    paragraph.delete();
  }

  private colour(hex: string, opacity: number): Float32Array {
    const [r, g, b] = this.ck.parseColorString(hex);
    return this.ck.Color4f(r, g, b, opacity);
  }

  /** @param only the letters that are seen, and how much; left out: all. @param outline the line round them instead of their faces. */
  private layOut(title: Title, width: number, only?: Seen, outline = false): Paragraph {
    const { ck } = this;
    const { dress, size } = title;
    const align = { left: ck.TextAlign.Left, centre: ck.TextAlign.Center, right: ck.TextAlign.Right }[title.align];
    const families = [title.font, `${title.font}-more`, ...TITLE_FONTS.map((f) => f.id)];
    // The shadow falls once, from what lies lowest.
    const shaded = dress && dress.shadow > 0 && outline === dress.outline > 0;
    const textStyle = (opacity: number): TextStyle =>
      new ck.TextStyle({
        color: this.colour(title.colour, opacity),
        fontFamilies: families,
        fontSize: size,
        letterSpacing: title.tracking * size,
        heightMultiplier: 1.15,
        ...(shaded &&
          opacity > 0 && {
            shadows: [
              {
                color: this.colour(dress.shadowColour, dress.shadow * opacity),
                offset: [0, dress.shadowDown * size],
                blurRadius: dress.shadowBlur * size,
              },
            ],
          }),
      });
    const style = new ck.ParagraphStyle({ textAlign: align, textStyle: textStyle(1) });
    const builder = ck.ParagraphBuilder.MakeFromFontProvider(style, this.provider);
    const clear = new ck.Paint();
    clear.setColor(ck.TRANSPARENT);
    const line = new ck.Paint();
    line.setAntiAlias(true);
    line.setStyle(ck.PaintStyle.Stroke);
    line.setStrokeJoin(ck.StrokeJoin.Round);
    // Half of it lies under the letters' faces.
    line.setStrokeWidth(2 * (dress?.outline ?? 0) * size);
    const { from, to, opacity } = only ?? { from: 0, to: title.text.length, opacity: 1 };
    for (const [text, seen] of [
      [title.text.slice(0, from), 0],
      [title.text.slice(from, to), opacity],
      [title.text.slice(to), 0],
    ] as const) {
      if (text === '') continue;
      if (outline) {
        line.setColor(this.colour(dress!.outlineColour, seen));
        builder.pushPaintStyle(textStyle(seen), line, clear);
      } else builder.pushStyle(textStyle(seen));
      builder.addText(text);
      builder.pop();
    }
    const paragraph = builder.build();
    builder.delete();
    line.delete();
    clear.delete();
    paragraph.layout(width * MEASURE);
    return paragraph;
  }
}

/** How far a title's dress reaches beyond its letters, in em. */
function dressReach({ dress }: Title): number {
  if (!dress) return 0;
  const shadow = dress.shadow > 0 ? Math.abs(dress.shadowDown) + 2 * dress.shadowBlur : 0;
  return Math.max(dress.box > 0 ? dress.boxPadding : 0, dress.outline + shadow);
}
