import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import CanvasKitInit, { type Canvas, type CanvasKit, type Typeface } from 'canvaskit-wasm';
import type { ModelImage } from '@tender-orbit/core/interchange';

const require = createRequire(import.meta.url);

type Bells = readonly [string, string, string];

/** The honeys that there are labels for. */
export const HONEYS = {
  heather: {
    ...{ words: 'HEATHER HONEY', paper: '#EFE4CF', laid: '#E8DAC1', band: '#5A3A6E', ink: '#74448F' },
    bells: ['#8A5BA6', '#A578BD', '#74448F'] as Bells,
  },
  clover: {
    ...{ words: 'CLOVER HONEY', paper: '#E6EBDA', laid: '#DBE2CC', band: '#4D6B45', ink: '#557A48' },
    bells: ['#E9EFE0', '#C9B7D8', '#F4F2EC'] as Bells,
  },
  pine: {
    ...{ words: 'PINE HONEY', paper: '#D9DFE4', laid: '#CCD4DB', band: '#25404A', ink: '#2F5560' },
    bells: ['#3C6A58', '#2F5548', '#4F7D66'] as Bells,
  },
} as const;
export type Honey = keyof typeof HONEYS;

/** Draws the label, box and wood art with vectors and shipped fonts; the same bytes every time. */
export class ArtRoom {
  private constructor(
    private readonly ck: CanvasKit,
    private readonly serif: Typeface,
    private readonly sans: Typeface,
  ) {}

  static async open(): Promise<ArtRoom> {
    const ck = await (CanvasKitInit as unknown as typeof CanvasKitInit)();
    const face = (file: string): Typeface => {
      const bytes = readFileSync(require.resolve(`@fontsource/${file}`));
      const typeface = ck.Typeface.MakeTypefaceFromData(new Uint8Array(bytes).buffer);
      if (!typeface) throw new Error(`The font ${file} cannot be read.`);
      return typeface;
    };
    return new ArtRoom(
      ck,
      face('fraunces/files/fraunces-latin-600-normal.woff2'),
      face('hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff2'),
    );
  }

  private draw(name: string, width: number, height: number, paint: (canvas: Canvas) => void): ModelImage {
    const surface = this.ck.MakeSurface(width, height);
    if (!surface) throw new Error('No drawing surface could be made.');
    paint(surface.getCanvas());
    surface.flush();
    const bytes = surface.makeImageSnapshot().encodeToBytes(this.ck.ImageFormat.PNG, 100);
    surface.delete();
    if (!bytes) throw new Error(`The picture ${name} could not be encoded.`);
    return { name, mimeType: 'image/png', bytes };
  }

  private text(
    canvas: Canvas,
    words: string,
    face: Typeface,
    size: number,
    tracking: number,
    x: number,
    y: number,
    colour: string,
  ): void {
    const font = new this.ck.Font(face, size);
    font.setSubpixel(true);
    const paint = new this.ck.Paint();
    paint.setAntiAlias(true);
    paint.setColor(this.ck.parseColorString(colour));
    const glyphs = font.getGlyphIDs(words);
    const widths = [...font.getGlyphWidths(glyphs)];
    const total = widths.reduce((sum, w) => sum + w + tracking, -tracking);
    let at = x - total / 2;
    const positions: number[] = [];
    for (const w of widths) {
      positions.push(at, y);
      at += w + tracking;
    }
    canvas.drawGlyphs([...glyphs], positions, 0, 0, font, paint);
    font.delete();
    paint.delete();
  }

  private hexagon(canvas: Canvas, x: number, y: number, radius: number, colour: string, stroke: number): void {
    const path = new this.ck.PathBuilder();
    for (let i = 0; i < 6; i++) {
      const a = (i / 6) * 2 * Math.PI + Math.PI / 6;
      if (i === 0) path.moveTo(x + radius * Math.cos(a), y + radius * Math.sin(a));
      else path.lineTo(x + radius * Math.cos(a), y + radius * Math.sin(a));
    }
    path.close();
    const paint = new this.ck.Paint();
    paint.setAntiAlias(true);
    paint.setColor(this.ck.parseColorString(colour));
    if (stroke > 0) {
      paint.setStyle(this.ck.PaintStyle.Stroke);
      paint.setStrokeWidth(stroke);
    }
    const shape = path.detach();
    canvas.drawPath(shape, paint);
    shape.delete();
    paint.delete();
  }

  /** A sprig in flower: a bent stem with bells in pairs. */
  private sprig(canvas: Canvas, x: number, y: number, height: number, lean: number, bells: Bells): void {
    const ck = this.ck;
    const paint = new ck.Paint();
    paint.setAntiAlias(true);
    for (let i = 0; i <= 22; i++) {
      const t = i / 22;
      const cx = x + lean * height * t * t;
      const cy = y - height * t;
      paint.setColor(ck.parseColorString('#5C6B4A'));
      canvas.drawCircle(cx, cy, 3.2 - t * 1.4, paint);
      if (t < 0.25) continue;
      const size = 15 * (1.15 - t * 0.7);
      for (const side of [-1, 1]) {
        paint.setColor(ck.parseColorString(bells[i % 3]));
        canvas.drawOval(ck.XYWHRect(cx + side * size * 0.95 - size * 0.5, cy - size * 0.2, size, size * 1.25), paint);
      }
    }
    paint.delete();
  }

  /** Wrap-round label, 312 degrees of a 34 mm radius by 41 mm, of one of the honeys. */
  label(kind: Honey = 'heather'): ModelImage {
    const { words, paper, laid, band, ink, bells } = HONEYS[kind];
    const w = 2048;
    const h = 452;
    return this.draw(`Label ${kind}`, w, h, (canvas) => {
      canvas.clear(this.ck.parseColorString(paper));
      const rule = new this.ck.Paint();
      // Laid lines of the paper.
      rule.setColor(this.ck.parseColorString(laid));
      for (let y = 0; y < h; y += 7) canvas.drawRect(this.ck.XYWHRect(0, y, w, 1.6), rule);
      rule.setColor(this.ck.parseColorString(band));
      canvas.drawRect(this.ck.XYWHRect(0, 16, w, 7), rule);
      canvas.drawRect(this.ck.XYWHRect(0, h - 23, w, 7), rule);
      rule.setColor(this.ck.parseColorString('#C08A3A'));
      canvas.drawRect(this.ck.XYWHRect(0, 29, w, 2.5), rule);
      canvas.drawRect(this.ck.XYWHRect(0, h - 31, w, 2.5), rule);
      rule.delete();
      this.text(canvas, 'Vellowmere', this.serif, 122, -1, w / 2, 236, '#38231A');
      this.text(canvas, words, this.sans, 36, 11, w / 2, 300, ink);
      this.text(canvas, 'SLOW GATHERED ON THE HIGH MOOR', this.sans, 19, 5, w / 2, 352, '#7A6248');
      this.text(canvas, '340 g', this.sans, 22, 3, w / 2, 394, '#7A6248');
      for (let i = -1; i <= 1; i++)
        this.hexagon(canvas, w / 2 + i * 36, 86, 19, i === 0 ? '#C08A3A' : '#B98A4A', i === 0 ? 0 : 3);
      for (const side of [-1, 1]) {
        this.sprig(canvas, w / 2 + side * 395, 398, 300, side * 0.14, bells);
        this.sprig(canvas, w / 2 + side * 440, 398, 230, side * 0.2, bells);
      }
      for (const x of [150, w - 150]) {
        this.text(canvas, 'Stir, spoon, share.', this.serif, 38, 0, x + (x < w / 2 ? 110 : -110), 200, '#38231A');
        this.text(canvas, 'KEEP COOL AND DRY', this.sans, 20, 4, x + (x < w / 2 ? 110 : -110), 250, '#7A6248');
      }
    });
  }

  /** Front panel of the gift box, 87.6 x 81.6 mm. */
  boxFront(): ModelImage {
    const w = 1024;
    const h = 954;
    return this.draw('Box front', w, h, (canvas) => {
      canvas.clear(this.ck.parseColorString('#5B4865'));
      for (let row = 0; row < 9; row++) {
        for (let column = -1; column < 9; column++) {
          const x = column * 132 + (row % 2) * 66 + 50;
          const y = row * 114 + 20;
          if (Math.hypot(x - w / 2, (y - h / 2) * 1.5) > 330) this.hexagon(canvas, x, y, 66, '#6E5979', 3);
        }
      }
      this.hexagon(canvas, w / 2, h / 2 - 178, 46, '#D2A45C', 0);
      this.text(canvas, 'Vellowmere', this.serif, 132, -1, w / 2, h / 2 + 12, '#F0DDB8');
      this.text(canvas, 'HEATHER HONEY', this.sans, 38, 12, w / 2, h / 2 + 84, '#D2A45C');
      this.text(canvas, 'one jar, one dipper', this.sans, 30, 2, w / 2, h - 110, '#BCA5C6');
    });
  }

  /** Beech: pale ground, fine dark flecks and slow rings along the length. */
  wood(): ModelImage {
    const w = 512;
    const h = 1024;
    return this.draw('Beech', w, h, (canvas) => {
      canvas.clear(this.ck.parseColorString('#C99A66'));
      const paint = new this.ck.Paint();
      paint.setAntiAlias(true);
      let seed = 7;
      const random = (): number => {
        seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
        return seed / 4294967296;
      };
      for (let i = 0; i < 90; i++) {
        paint.setColor(this.ck.Color(120 + random() * 60, 74 + random() * 40, 34 + random() * 30, 0.1));
        const x = random() * w;
        canvas.drawRect(this.ck.XYWHRect(x, 0, 2 + random() * 14, h), paint);
      }
      for (let i = 0; i < 2600; i++) {
        paint.setColor(this.ck.Color(96, 58, 28, 0.18 + random() * 0.2));
        canvas.drawRect(this.ck.XYWHRect(random() * w, random() * h, 1.4, 6 + random() * 16), paint);
      }
      paint.delete();
    });
  }
}
