import { cos, sin } from '../maths/index.ts';
import type { Canvas, CanvasKit, Paint, Paragraph, TextStyle, TypefaceFontProvider } from 'canvaskit-wasm';
import type { VectorPicture } from '../composite/index.ts';
import type { LayerOf, Title } from '../document/index.ts';
import type { Overlay } from '../picture/index.ts';
import { drawLines } from './draw-lines.ts';
import { familyNames, fontFiles, fontsFor, ownFontAsset, runsLeft, TITLE_FONTS, type FontedText } from './fonts.ts';
import { rasterOverlay } from './raster-overlay.ts';
import { bentAt } from './title-bend.ts';
import { type TitlePart } from './title-parts.ts';
import { posedParts, titlePose, type TitlePose } from './title-pose.ts';
import { countUp } from './variables.ts';

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

  /** @param fonts files of TITLE_FONTS by path; `fetchFont` gets more as texts need them. A font that is missing falls back to the others. */
  constructor(
    ck: CanvasKit,
    fonts: ReadonlyMap<string, ArrayBuffer>,
    private readonly fetchFont: (file: string) => Promise<ArrayBuffer | null> = async () => null,
  ) {
    this.ck = ck;
    this.provider = ck.TypefaceFontProvider.Make();
    for (const [file, bytes] of fonts) this.add(file, bytes);
  }

  private readonly asked = new Map<string, Promise<void>>();

  /** Gets the fonts that texts need, those that are not there yet. */
  async need(texts: Iterable<FontedText>): Promise<void> {
    for (const file of fontFiles(texts)) {
      if (this.asked.has(file)) continue;
      const bytes = this.fetchFont(file).catch(() => null);
      this.asked.set(
        file,
        bytes.then((found) => {
          if (found) this.add(file, found);
          // It may be had another time.
          else this.asked.delete(file);
        }),
      );
    }
    await Promise.all(this.asked.values());
  }

  /** Takes the file of a font, if it is of one that is known. */
  private add(file: string, bytes: ArrayBuffer): void {
    const own = ownFontAsset(file);
    if (own) this.provider.registerFont(bytes, own);
    for (const font of TITLE_FONTS) {
      const at = font.files.indexOf(file);
      if (at >= 0) this.provider.registerFont(bytes, familyNames(font)[at]);
    }
  }

  dispose(): void {
    this.provider.delete();
  }

  /** The title as an overlay for a picture of the given size at a promo frame; null when there is nothing to draw. */
  draw(written: Title, frame: number, width: number, height: number): Overlay | null {
    const pose = titlePose(written, frame);
    if (!pose || pose.opacity <= 0 || written.text.trim() === '') return null;
    const { ck } = this;
    const title = {
      ...written,
      ...(pose.counted < 1 && { text: countUp(written.text, pose.counted) }),
      tracking: written.tracking + pose.tracking,
    };
    const paragraph = this.layOut(title, width);
    const measure = this.measureOf(title, width);
    const textWidth = Math.min(measure, paragraph.getLongestLine());
    const textHeight = paragraph.getHeight();
    const anchor = { left: 0, centre: 0.5, right: 1 }[title.align];
    const x = title.x * width - anchor * textWidth + pose.across * title.size;
    const y = title.y * height - textHeight / 2 + pose.down * title.size;
    const reach =
      title.size * (title.parts || pose.scale > 1 || pose.blur > 0 ? MOVING_MARGIN : MARGIN) +
      (pose.turn !== 0 || title.bend ? textWidth / 2 : 0) +
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
    const slack = measure - textWidth;
    const origin = [x - left - anchor * slack, y - top] as const;
    const middle = [x - left + textWidth / 2, y - top + textHeight / 2] as const;
    const overlay = rasterOverlay(ck, { left, top, width: w, height: h }, (canvas) => {
      this.posed(canvas, title, pose, middle, [x - left, y - top, textWidth, textHeight], (down) => {
        this.drawBox(canvas, title, [x - left, y - top, textWidth, textHeight]);
        if (title.parts || title.bend) this.drawParts(canvas, title, frame, width, origin, middle, textWidth);
        else {
          this.drawOutline(canvas, title, width, [origin[0], origin[1] + down]);
          put(canvas, paragraph, origin[0], origin[1] + down);
        }
      });
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

  /**
   * Each part by itself: the whole text with all others clear, so that every letter stays where it is, joined as it is. A bent text is
   * drawn letter by letter, each with the pose of its part.
   * @param centre of the text, about which it is bent. @param across how wide it is.
   */
  private drawParts(
    canvas: Canvas,
    title: Title,
    frame: number,
    width: number,
    [x, y]: readonly [number, number],
    centre: readonly [number, number],
    across: number,
  ): void {
    const { ck } = this;
    for (const { pose, ...part } of posedParts(title, frame)) {
      if (pose.opacity <= 0) continue;
      const only = { ...part, opacity: pose.opacity };
      const paragraph = this.layOut(title, width, only);
      const [box] = paragraph.getRectsForRange(part.from, part.to, ck.RectHeightStyle.Tight, ck.RectWidthStyle.Tight);
      const [l, t, r, b] = box ? [...box.rect] : [0, 0, 0, 0];
      const at = [x + pose.across * title.size, y + pose.down * title.size] as const;
      const middle = [x + (l + r) / 2, y + (t + b) / 2] as const;
      const bent = bentAt(title.bend ?? 0, across, [middle[0] - centre[0], middle[1] - centre[1]]);
      canvas.save();
      canvas.translate(...bent.by);
      this.posed(
        canvas,
        title,
        { ...pose, turn: pose.turn - bent.turn },
        middle,
        [x + l, y + t, r - l, b - t],
        (lower) => {
          this.drawOutline(canvas, title, width, [at[0], at[1] + lower], only);
          put(canvas, paragraph, at[0], at[1] + lower);
        },
      );
      canvas.restore();
      paragraph.delete();
    }
  }

  /**
   * Draws something grown, turned and blurred about its middle, and behind its line where it comes out of one.
   * @param box of it. @param draw is told how far below its place it is.
   */
  private posed(
    canvas: Canvas,
    { size }: Title,
    { scale, turn, blur, unmasked }: TitlePose,
    middle: readonly [number, number],
    [x, y, w, h]: readonly [number, number, number, number],
    draw: (down: number) => void,
  ): void {
    const { ck } = this;
    canvas.save();
    if (scale !== 1) canvas.concat(ck.Matrix.scaled(scale, scale, ...middle));
    if (turn !== 0) canvas.rotate(-turn, ...middle);
    if (blur > 0) {
      const filter = ck.ImageFilter.MakeBlur(blur * size, blur * size, ck.TileMode.Decal, null);
      const paint = new ck.Paint();
      paint.setImageFilter(filter);
      canvas.saveLayer(paint);
      paint.delete();
      filter.delete();
    }
    if (unmasked < 1) canvas.clipRect(ck.LTRBRect(x - size, y, x + w + size, y + h), ck.ClipOp.Intersect, true);
    draw((1 - unmasked) * h);
    if (blur > 0) canvas.restore();
    canvas.restore();
  }

  /** Widths at which a text is laid out, by what it depends on. */
  private readonly measures = new Map<string, number>();

  /** How wide a line may be: as it is told, and where lines are balanced as little as leaves as many of them. */
  private measureOf(title: Title, width: number): number {
    const most = width * (title.measure ?? MEASURE);
    if (!title.balanced) return most;
    const key = JSON.stringify([title.text, title.font, title.size, title.tracking, most]);
    let known = this.measures.get(key);
    if (known === undefined) {
      const lines = (measure: number): number => {
        const paragraph = this.layOut({ ...title, balanced: false }, width, undefined, false, measure);
        const count = paragraph.getLineMetrics().length;
        paragraph.delete();
        return count;
      };
      const count = lines(most);
      let [low, high] = [most / (count + 1), most];
      for (let step = 0; step < 12; step++) {
        const middle = (low + high) / 2;
        if (lines(middle) > count) low = middle;
        else high = middle;
      }
      if (this.measures.size > 200) this.measures.clear();
      this.measures.set(key, (known = Math.min(most, Math.ceil(high) + 1)));
    }
    return known;
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
    put(canvas, paragraph, ...at);
    paragraph.delete();
  }

  /** A gradient over the width of a text, or its height where it goes up. */
  private fillPaint({ fill, colour, size, align }: Title, measure: number, opacity: number): Paint {
    const { ck } = this;
    const angle = (fill!.angle * Math.PI) / 180;
    const middle = { left: size * 3, centre: measure / 2, right: measure - size * 3 }[align];
    const [dx, dy] = [cos(angle) * size * 3, -sin(angle) * size * 0.6];
    const shader = ck.Shader.MakeLinearGradient(
      [middle - dx, size * 0.6 - dy],
      [middle + dx, size * 0.6 + dy],
      [this.colour(colour, opacity), this.colour(fill!.colour, opacity)],
      null,
      ck.TileMode.Clamp,
    );
    const paint = new ck.Paint();
    paint.setAntiAlias(true);
    paint.setShader(shader);
    shader.delete();
    return paint;
  }

  private colour(hex: string, opacity: number): Float32Array {
    const [r, g, b] = this.ck.parseColorString(hex);
    return this.ck.Color4f(r, g, b, opacity);
  }

  /** @param only the letters that are seen, and how much; left out: all. @param outline the line round them instead of their faces. */
  private layOut(
    title: Title,
    width: number,
    only?: Seen,
    outline = false,
    measure = this.measureOf(title, width),
  ): Paragraph {
    const { ck } = this;
    const { dress, size } = title;
    const align = { left: ck.TextAlign.Left, centre: ck.TextAlign.Center, right: ck.TextAlign.Right }[title.align];
    const families = fontsFor(title).flatMap(familyNames);
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
    const style = new ck.ParagraphStyle({
      ...{ textAlign: align, textStyle: textStyle(1) },
      ...(runsLeft(title.text) && { textDirection: ck.TextDirection.RTL }),
    });
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
      } else if (title.fill && seen > 0) {
        const face = this.fillPaint(title, measure, seen);
        builder.pushPaintStyle(textStyle(seen), face, clear);
        face.delete();
      } else builder.pushStyle(textStyle(seen));
      builder.addText(text);
      builder.pop();
    }
    const paragraph = builder.build();
    builder.delete();
    line.delete();
    clear.delete();
    paragraph.layout(measure);
    return paragraph;
  }
}

/** Draws a text at a place; what its letters are filled with goes along. */
function put(canvas: Canvas, paragraph: Paragraph, x: number, y: number): void {
  canvas.save();
  canvas.translate(x, y);
  canvas.drawParagraph(paragraph, 0, 0);
  canvas.restore();
}

/** How far a title's dress reaches beyond its letters, in em. */
function dressReach({ dress }: Title): number {
  if (!dress) return 0;
  const shadow = dress.shadow > 0 ? Math.abs(dress.shadowDown) + 2 * dress.shadowBlur : 0;
  return Math.max(dress.box > 0 ? dress.boxPadding : 0, dress.outline + shadow);
}
