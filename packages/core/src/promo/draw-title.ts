import type { Canvas, CanvasKit, Paragraph, TypefaceFontProvider } from 'canvaskit-wasm';
import type { VectorPicture } from '../composite/index.ts';
import type { LayerOf, Title } from '../document/index.ts';
import type { Overlay } from '../picture/index.ts';
import type { TitleGround } from './assemble.ts';
import { drawCallout } from './draw-callout.ts';
import { drawLines, strokeWay } from './draw-lines.ts';
import { familyNames, fontFiles, ownFontAsset, TITLE_FONTS, type FontedText } from './fonts.ts';
import type { TitleBox } from './fit-titles.ts';
import { colourOf, layOutTitle, raisesOf, type LayOut, type SeenLetters } from './lay-out-title.ts';
import { rasterOverlay } from './raster-overlay.ts';
import { bentAlong, bentAt } from './title-bend.ts';
import { lineGrown, posedParts, titlePose, type TitlePose } from './title-pose.ts';
import { countedTitle } from './variables.ts';

/** Share of the picture's width that text may fill before it wraps. */
const MEASURE = 0.92;
/** A text as it is laid out, and where its paragraph begins in what is drawn on. */
interface Setting extends Pick<LayOut, 'measure' | 'window'> {
  title: Title;
  origin: readonly [number, number];
}

/** Where the middle of a letter goes, pixels, and degrees by which it is turned to the right; null: it is not seen. */
type Bend = (middle: readonly [number, number]) => { by: [number, number]; turn: number } | null;

/** Titles that are kept as they were drawn. */
const RESTED = 6;

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

  /** Titles as they were drawn last, by all that they follow from: most frames show a title as the one before. */
  private readonly rested = new Map<string, Overlay | null>();

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
    // What was drawn without it is drawn anew.
    this.rested.clear();
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
  draw(written: Title, frame: number, width: number, height: number, ground?: TitleGround): Overlay | null {
    const at = titlePose(written, frame);
    if (!at || written.text.trim() === '') return null;
    const { scale = 1, rotation = 0, opacity = 1 } = written;
    const seen = ground?.callout?.seen ?? 1;
    const pose = { ...at, scale: at.scale * scale, turn: at.turn + rotation, opacity: at.opacity * opacity * seen };
    if (pose.opacity <= 0) return null;
    // Parts come one by one; what letters show or go along may be another in every frame.
    if (written.parts || ground?.along || ground?.window || ground?.callout)
      return this.drawPosed(written, pose, frame, width, height, ground);
    const key = JSON.stringify([written, pose, width, height]);
    let drawn = this.rested.get(key);
    if (drawn === undefined) {
      drawn = this.drawPosed(written, pose, frame, width, height, ground);
      const [oldest] = this.rested.keys();
      if (this.rested.size >= RESTED) this.rested.delete(oldest);
      this.rested.set(key, drawn);
    }
    return drawn;
  }

  private drawPosed(
    written: Title,
    pose: TitlePose,
    frame: number,
    width: number,
    height: number,
    ground?: TitleGround,
  ): Overlay | null {
    const { ck } = this;
    const title = { ...countedTitle(written, pose.counted), tracking: written.tracking + pose.tracking };
    const measure = this.measureOf(title, width);
    const paragraph = layOutTitle(ck, this.provider, title, { measure });
    const textWidth = Math.min(measure, paragraph.getLongestLine());
    const textHeight = paragraph.getHeight();
    // Where letters really stand, which line metrics round otherwise.
    const baseline = ground?.along ? (paragraph.getShapedLines()[0]?.baseline ?? textHeight) : 0;
    paragraph.delete();
    const anchor = { left: 0, centre: 0.5, right: 1 }[title.align];
    const x = title.x * width - anchor * textWidth + pose.across * title.size;
    const y = title.y * height - textHeight / 2 + pose.down * title.size;
    const along = ground?.along ? strokeWay(ck, ground.along, width, height) : null;
    const room =
      along || ground?.callout
        ? { left: 0, top: 0, width, height }
        : roomOf(title, pose, [x, y, textWidth, textHeight], width, height);
    if (!room) return null;
    const { left, top } = room;
    // The paragraph is laid out over the full measure and aligned in it; the drawing starts at its aligned edge.
    const slack = anchor * (measure - textWidth);
    const box = [x - left, y - top, textWidth, textHeight] as const;
    const window = ground?.window ? { picture: ground.window, box: [slack, 0, textWidth, textHeight] as const } : null;
    const setting: Setting = { title, measure, window, origin: [box[0] - slack, box[1]] };
    const middle = [box[0] + textWidth / 2, box[1] + textHeight / 2] as const;
    const bend: Bend = along
      ? bentAlong(along, title.x, anchor, textWidth, [middle[0], box[1] + baseline])
      : (from) => bentAt(title.bend ?? 0, textWidth, [from[0] - middle[0], from[1] - middle[1]]);
    const overlay = rasterOverlay(ck, room, (canvas) => {
      if (ground?.callout && title.callout) {
        const { x: px, y: py } = ground.callout;
        drawCallout(ck, canvas, title, box, [px * width - left, py * height - top], lineGrown(title, frame));
      }
      // Letters on a way are each turned about themselves: the way stays where it is.
      const whole = along ? { ...pose, scale: 1, turn: 0 } : pose;
      this.posed(canvas, title, whole, middle, box, (down) => {
        if (!along) this.drawBox(canvas, title, box);
        if (title.parts || title.bend || along) this.drawParts(canvas, setting, frame, bend, along !== null, pose);
        else this.drawLetters(canvas, setting, [0, down], wholeOf(title, pose));
      });
    });
    along?.dispose();
    if (!overlay) return null;
    const { data } = overlay;
    if (pose.opacity < 1) for (let i = 0; i < data.length; i++) data[i] = data[i] * pose.opacity + 0.5;
    return overlay;
  }

  /** How large a title is once it is there, with the box behind it, in a picture of some width. */
  measure(title: Title, width: number): TitleBox {
    const measure = this.measureOf(title, width);
    const paragraph = layOutTitle(this.ck, this.provider, title, { measure });
    const { size, dress, scale = 1 } = title;
    const room = dress && dress.box > 0 ? dress.boxPadding * size : 0;
    const box: TitleBox = {
      wide: (Math.min(measure, paragraph.getLongestLine()) + 2 * room) * scale,
      high: (paragraph.getHeight() + room) * scale,
      lines: paragraph.getLineMetrics().length,
      widest: (paragraph.getMinIntrinsicWidth() + 2 * room) * scale,
    };
    paragraph.delete();
    return box;
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
   * @param bend where a letter goes. @param bent whether it is on a way, of which letters beyond its ends are not drawn.
   */
  private drawParts(
    canvas: Canvas,
    setting: Setting,
    frame: number,
    bend: Bend,
    onWay: boolean,
    whole: TitlePose,
  ): void {
    const { ck } = this;
    const { title, measure, origin } = setting;
    for (const { pose, ...part } of posedParts(title, frame, onWay)) {
      if (pose.opacity <= 0) continue;
      const paragraph = layOutTitle(ck, this.provider, title, { measure });
      const [box] = paragraph.getRectsForRange(part.from, part.to, ck.RectHeightStyle.Tight, ck.RectWidthStyle.Tight);
      paragraph.delete();
      const [l, t, r, b] = box ? [...box.rect] : [0, 0, 0, 0];
      const [x, y] = origin;
      const middle = [x + (l + r) / 2, y + (t + b) / 2] as const;
      const bent = bend(middle);
      if (!bent) continue;
      const [scale, turn] = onWay ? [pose.scale * whole.scale, pose.turn + whole.turn] : [pose.scale, pose.turn];
      canvas.save();
      canvas.translate(...bent.by);
      this.posed(
        canvas,
        title,
        { ...pose, scale, turn: turn - bent.turn },
        middle,
        [x + l, y + t, r - l, b - t],
        (lower) => {
          const by = [pose.across * title.size, pose.down * title.size + lower] as const;
          this.drawLetters(canvas, setting, by, { ...part, opacity: pose.opacity, tint: pose.tint ?? whole.tint });
        },
      );
      canvas.restore();
    }
  }

  /** Letters with the line round them; those that are raised by themselves. */
  private drawLetters(
    canvas: Canvas,
    { title, measure, window, origin }: Setting,
    by: readonly [number, number],
    only: SeenLetters,
  ): void {
    const raises = raisesOf(title);
    const outlined = title.dress !== undefined && title.dress.outline > 0;
    for (const outline of outlined ? [true, false] : [false])
      for (const raised of raises) {
        const how = { measure, window, only, outline, ...(raises.length > 1 && { raised }) };
        const paragraph = layOutTitle(this.ck, this.provider, title, how);
        put(canvas, paragraph, origin[0] + by[0], origin[1] + by[1] - raised * title.size);
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
    const { text, font, size, tracking, weight, stretch, unkerned, runs } = title;
    const key = JSON.stringify([text, font, size, tracking, weight, stretch, unkerned, runs, most]);
    let known = this.measures.get(key);
    if (known === undefined) {
      const lines = (measure: number): number => {
        const paragraph = layOutTitle(this.ck, this.provider, title, { measure });
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
    paint.setColor(colourOf(ck, dress.boxColour, dress.box));
    canvas.drawRRect(ck.RRectXY(ck.XYWHRect(x - pad, y - pad / 2, w + 2 * pad, h + pad), radius, radius), paint);
    paint.delete();
  }
}

/** Draws a text at a place; what its letters are filled with goes along. */
function put(canvas: Canvas, paragraph: Paragraph, x: number, y: number): void {
  canvas.save();
  canvas.translate(x, y);
  canvas.drawParagraph(paragraph, 0, 0);
  canvas.restore();
}

/** All letters of a title as they are in its pose. */
const wholeOf = ({ text }: Title, { tint }: TitlePose): SeenLetters => ({ from: 0, to: text.length, opacity: 1, tint });

/** The part of a picture that a title may reach; null: none. */
function roomOf(
  title: Title,
  pose: TitlePose,
  [x, y, wide, high]: readonly [number, number, number, number],
  width: number,
  height: number,
): Omit<Overlay, 'data'> | null {
  const large = Math.max(1, ...(title.runs ?? []).map(({ size = 1 }) => size));
  const raised = Math.max(0, ...(title.runs ?? []).map(({ raise = 0 }) => Math.abs(raise)));
  const reach =
    title.size * (large * (title.parts || pose.scale > 1 || pose.blur > 0 ? MOVING_MARGIN : MARGIN) + raised) +
    (pose.turn !== 0 || title.bend ? wide / 2 : 0) +
    (pose.scale > 1 ? (pose.scale - 1) * Math.max(wide, high) * 0.5 : 0) +
    title.size * dressReach(title);
  const left = Math.max(0, Math.floor(x - reach));
  const top = Math.max(0, Math.floor(y - reach));
  const w = Math.min(width, Math.ceil(x + wide + reach)) - left;
  const h = Math.min(height, Math.ceil(y + high + reach)) - top;
  return w > 0 && h > 0 ? { left, top, width: w, height: h } : null;
}

/** How far a title's dress reaches beyond its letters, in em. */
function dressReach({ dress }: Title): number {
  if (!dress) return 0;
  const shadow = dress.shadow > 0 ? Math.abs(dress.shadowDown) + 2 * dress.shadowBlur : 0;
  return Math.max(dress.box > 0 ? dress.boxPadding : 0, dress.outline + shadow);
}
