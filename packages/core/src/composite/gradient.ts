import type { GradientStop, LayerOf } from '../document/index.ts';
import { hashed } from '../maths/index.ts';
import type { Place } from './place.ts';
import type { Plate, Plates } from './plate.ts';
import type { Colour } from './shapes.ts';

/** Entries of a table of a gradient's colours: as kernel/assembly/picture/gradient.ts has it. */
const ENTRIES = 4096;
/**
 * Noise that takes the place of bands: a square of it, again and again, a step of a byte wide about 0. Each row has every height once, in
 * an order of its own, so that no row is brighter than another.
 */
const NOISE = 64;
const NOISES = Float32Array.from(
  Array.from({ length: NOISE }, (_, y) =>
    Array.from({ length: NOISE }, (_unused, k) => ({ height: (k + 0.5) / NOISE - 0.5, order: hashed(k, y, 3, 29) }))
      .sort((p, q) => p.order - q.order)
      .map(({ height }) => height / 255),
  ).flat(),
);

type Tint = (hex: string) => Colour;

/** Premultiplied colours along rows of four in order, four numbers an entry. */
function table(rows: ReadonlyArray<{ at: number; row: readonly number[] }>): Float32Array {
  const out = new Float32Array((ENTRIES + 1) * 4);
  for (let n = 0, k = 0; n <= ENTRIES; n++) {
    const t = n / ENTRIES;
    while (k < rows.length - 1 && rows[k + 1].at <= t) k++;
    const [p, q] = [rows[k], rows[Math.min(k + 1, rows.length - 1)]];
    const way = q.at > p.at ? Math.min(1, Math.max(0, (t - p.at) / (q.at - p.at))) : 0;
    for (let c = 0; c < 4; c++) out[n * 4 + c] = p.row[c] + (q.row[c] - p.row[c]) * way;
  }
  return out;
}

const stopTable = (stops: readonly GradientStop[], tint: Tint): Float32Array =>
  table(
    [...stops]
      .sort((p, q) => p.at - q.at)
      .map(({ at, colour, opacity }) => ({ at, row: [...tint(colour).map((v) => v * opacity), opacity] })),
  );

const FORMS: ReadonlyArray<LayerOf<'gradient'>['form']> = ['linear', 'radial', 'conical'];

/** The stops of a run of two colours. Mixed as premultiplied colours are, so that what fades out does not darken. */
function twoColours({ colour, otherColour, otherOpacity, middle }: LayerOf<'gradient'>, tint: Tint): Float32Array {
  const ends = [
    [...tint(colour), 1],
    [...tint(otherColour).map((v) => v * otherOpacity), otherOpacity],
  ];
  return table([
    { at: 0, row: ends[0] },
    { at: middle, row: ends[0].map((v, c) => (v + ends[1][c]) / 2) },
    { at: 1, row: ends[1] },
  ]);
}

/**
 * A run of colours as a plate; they may be clear. A noise of a step of a byte keeps slow runs from showing bands.
 * @param tint a colour as the layer's space has it.
 */
export function gradientPlate(
  plates: Plates,
  width: number,
  height: number,
  place: Place,
  layer: LayerOf<'gradient'>,
  tint: Tint,
): Plate {
  const plate = plates.raw(width, height);
  plates.within(() => gradientRows(plates, place, layer, tint)(plate, 0));
  return plate;
}

/** The same for some rows of a picture at a time, the first of which is `top`; what it needs stays on the stack of plates. */
export function gradientRows(
  plates: Plates,
  { a, b, c, d, e, f, g, h, i }: Place,
  layer: LayerOf<'gradient'>,
  tint: Tint,
): (rows: Plate, top: number) => void {
  const numbers = plates.doubles([a, b, c, d, e, f, g, h, i, Math.max(1e-6, layer.size)]);
  const colours = plates.store(layer.stops ? stopTable(layer.stops, tint) : twoColours(layer, tint)).at;
  const noise = plates.store(NOISES).at;
  const form = FORMS.indexOf(layer.form);
  const scene = layer.space === 'scene' ? 1 : 0;
  return ({ at, width, height }, top) =>
    plates.kernel.gradient(at, width, height, top, numbers, form, colours, noise, scene);
}
