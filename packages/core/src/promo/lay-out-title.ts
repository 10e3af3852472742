import type { CanvasKit, Paint, Paragraph, TextStyle, TypefaceFontProvider } from 'canvaskit-wasm';
import type { TextRun, Title } from '../document/index.ts';
import { cos, sin } from '../maths/index.ts';
import type { Picture } from '../picture/index.ts';
import { familyNames, fontsFor, runsLeft, TITLE_FONTS } from './fonts.ts';
import type { TitlePart } from './title-parts.ts';
import type { TitlePose } from './title-pose.ts';

/** Line to line, em, where a title does not say. */
const LEADING = 1.15;

/** Letters that are seen, how much, and how far they still have a colour that they come from. */
export type SeenLetters = TitlePart & Pick<TitlePose, 'opacity' | 'tint'>;

export interface LayOut {
  /** Pixels that a line may be wide. */
  measure: number;
  /** The letters that are seen; missing: all. */
  only?: SeenLetters;
  /** The line round the letters instead of their faces. */
  outline?: boolean;
  /** Only letters that are raised as far, em; missing: all. */
  raised?: number;
  /** What is seen through the letters, and the box of the text that it covers. */
  window?: { picture: Picture; box: readonly [x: number, y: number, wide: number, high: number] } | null;
}

/** Stretches of a title's letters that are set alike: those of its runs, and those between them. */
interface Stretch extends TitlePart {
  run?: TextRun;
}

function stretches({ text, runs = [] }: Title): Stretch[] {
  const all: Stretch[] = [];
  let at = 0;
  for (const run of runs) {
    const [from, to] = [Math.max(at, run.from), Math.min(text.length, run.to)];
    if (from >= to) continue;
    if (from > at) all.push({ from: at, to: from });
    all.push({ from, to, run });
    at = to;
  }
  if (at < text.length) all.push({ from: at, to: text.length });
  return all;
}

/** How far letters of a title are raised, each once; those on the line first. */
export function raisesOf({ runs = [] }: Title): number[] {
  return [...new Set([0, ...runs.map(({ raise = 0 }) => raise)])];
}

/** Lays out a title's text with CanvasKit. The paragraph is the caller's to delete. */
export function layOutTitle(ck: CanvasKit, provider: TypefaceFontProvider, title: Title, how: LayOut): Paragraph {
  const { dress, size } = title;
  const { measure, only, outline = false, raised, window } = how;
  const align = { left: ck.TextAlign.Left, centre: ck.TextAlign.Center, right: ck.TextAlign.Right }[title.align];
  // The shadow falls once, from what lies lowest.
  const shaded = dress && dress.shadow > 0 && outline === dress.outline > 0;
  const tint = only?.tint ?? null;
  const styleOf = (opacity: number, run?: TextRun): TextStyle => {
    const font = run?.font ?? title.font;
    return new ck.TextStyle({
      color: mixed(ck, run?.colour ?? title.colour, tint, opacity),
      fontFamilies: fontsFor({ font, text: title.text }).flatMap(familyNames),
      fontSize: size * (run?.size ?? 1),
      letterSpacing: (title.tracking + (run?.tracking ?? 0)) * size,
      heightMultiplier: title.leading ?? LEADING,
      ...axesOf(font, run?.weight ?? title.weight, title.stretch),
      ...(title.unkerned && { fontFeatures: [{ name: 'kern', value: 0 }] }),
      ...(shaded &&
        opacity > 0 && {
          shadows: [
            {
              color: colourOf(ck, dress.shadowColour, dress.shadow * opacity),
              offset: [0, dress.shadowDown * size],
              blurRadius: dress.shadowBlur * size,
            },
          ],
        }),
    });
  };
  const style = new ck.ParagraphStyle({
    ...{ textAlign: align, textStyle: styleOf(1) },
    ...(runsLeft(title.text) && { textDirection: ck.TextDirection.RTL }),
  });
  const builder = ck.ParagraphBuilder.MakeFromFontProvider(style, provider);
  const clear = new ck.Paint();
  clear.setColor(ck.TRANSPARENT);
  const line = new ck.Paint();
  line.setAntiAlias(true);
  line.setStyle(ck.PaintStyle.Stroke);
  line.setStrokeJoin(ck.StrokeJoin.Round);
  // Half of it lies under the letters' faces.
  line.setStrokeWidth(2 * (dress?.outline ?? 0) * size);
  const { from, to, opacity } = only ?? { from: 0, to: title.text.length, opacity: 1 };
  for (const { run, ...stretch } of stretches(title)) {
    const lifted = raised === undefined || (run?.raise ?? 0) === raised;
    for (const [begin, end, letters] of [
      [stretch.from, Math.min(stretch.to, from), 0],
      [Math.max(stretch.from, from), Math.min(stretch.to, to), opacity],
      [Math.max(stretch.from, to), stretch.to, 0],
    ] as const) {
      if (begin >= end) continue;
      const seen = lifted ? letters : 0;
      const face = seen > 0 && !outline ? facePaint(ck, title, { measure, window, run, tint }, seen) : null;
      if (outline) {
        line.setColor(colourOf(ck, dress!.outlineColour, seen));
        builder.pushPaintStyle(styleOf(seen, run), line, clear);
      } else if (face) builder.pushPaintStyle(styleOf(seen, run), face, clear);
      else builder.pushStyle(styleOf(seen, run));
      face?.delete();
      builder.addText(title.text.slice(begin, end));
      builder.pop();
    }
  }
  const paragraph = builder.build();
  builder.delete();
  line.delete();
  clear.delete();
  paragraph.layout(measure);
  return paragraph;
}

/** Where on its axes a variable font is set. Others have none. */
function axesOf(font: string, weight = 400, stretch = 100): Pick<TextStyle, 'fontVariations'> {
  const axes = TITLE_FONTS.find(({ id }) => id === font)?.axes;
  if (!axes) return {};
  const within = ([least, most]: [number, number], value: number): number => Math.min(most, Math.max(least, value));
  return {
    fontVariations: [
      { axis: 'wght', value: within(axes.weight, weight) },
      ...(axes.stretch ? [{ axis: 'wdth', value: within(axes.stretch, stretch) }] : []),
    ],
  };
}

/** What letters are filled with other than a colour; null: a colour. A run with its own colour has that. */
function facePaint(
  ck: CanvasKit,
  title: Title,
  { measure, window, run, tint }: Pick<LayOut, 'measure' | 'window'> & Pick<Stretch, 'run'> & Pick<SeenLetters, 'tint'>,
  opacity: number,
): Paint | null {
  if (run?.colour) return null;
  if (window) return windowPaint(ck, window, opacity);
  return title.fill ? gradientPaint(ck, title, measure, tint, opacity) : null;
}

/** A picture as large as covers the text's box. */
function windowPaint(ck: CanvasKit, { picture, box }: NonNullable<LayOut['window']>, opacity: number): Paint | null {
  const { width, height, data } = picture;
  const info = {
    ...{ width, height, colorType: ck.ColorType.RGBA_8888, alphaType: ck.AlphaType.Unpremul },
    colorSpace: ck.ColorSpace.SRGB,
  };
  const image = ck.MakeImage(info, data, width * 4);
  if (!image) return null;
  const [x, y, wide, high] = box;
  const scale = Math.max(wide / width, high / height);
  const [left, top] = [x + (wide - width * scale) / 2, y + (high - height * scale) / 2];
  const { Clamp } = ck.TileMode;
  const place = [scale, 0, left, 0, scale, top, 0, 0, 1];
  const shader = image.makeShaderOptions(Clamp, Clamp, ck.FilterMode.Linear, ck.MipmapMode.None, place);
  const paint = new ck.Paint();
  paint.setAntiAlias(true);
  paint.setShader(shader);
  paint.setAlphaf(opacity);
  shader.delete();
  image.delete();
  return paint;
}

/** A gradient over the width of a text, or its height where it goes up. */
function gradientPaint(
  ck: CanvasKit,
  { fill, colour, size, align }: Title,
  measure: number,
  tint: SeenLetters['tint'],
  opacity: number,
): Paint {
  const angle = (fill!.angle * Math.PI) / 180;
  const middle = { left: size * 3, centre: measure / 2, right: measure - size * 3 }[align];
  const [dx, dy] = [cos(angle) * size * 3, -sin(angle) * size * 0.6];
  const shader = ck.Shader.MakeLinearGradient(
    [middle - dx, size * 0.6 - dy],
    [middle + dx, size * 0.6 + dy],
    [mixed(ck, colour, tint, opacity), mixed(ck, fill!.colour, tint, opacity)],
    null,
    ck.TileMode.Clamp,
  );
  const paint = new ck.Paint();
  paint.setAntiAlias(true);
  paint.setShader(shader);
  shader.delete();
  return paint;
}

/** A colour of sRGB as CanvasKit has it. */
export function colourOf(ck: CanvasKit, hex: string, opacity: number): Float32Array {
  const [r, g, b] = ck.parseColorString(hex);
  return ck.Color4f(r, g, b, opacity);
}

/** A colour that is on its way from another. */
function mixed(ck: CanvasKit, hex: string, tint: SeenLetters['tint'], opacity: number): Float32Array {
  const own = colourOf(ck, hex, opacity);
  if (!tint) return own;
  const from = colourOf(ck, tint.colour, opacity);
  return ck.Color4f(
    ...([0, 1, 2].map((c) => own[c] + (from[c] - own[c]) * tint.share) as [number, number, number]),
    opacity,
  );
}
