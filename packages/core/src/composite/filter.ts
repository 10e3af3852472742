import { newLayer, type LayerOf } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, sin } from '../maths/index.ts';
import { blurPlate } from './blur.ts';
import { drawVapour } from './noise.ts';
import { placeOf } from './place.ts';
import type { Floats, Plate, Plates } from './plate.ts';

type Filter = LayerOf<'filter'>;

/** How the kernel numbers what lines go along. */
const [ALONG, OUTWARD, ROUND] = [0, 1, 2];

/** Works a filter over all that is there. @param seconds of the shot, for what changes with time. */
export function applyFilter(plates: Plates, plate: Plate, filter: Filter, seconds: number): void {
  const pixels = filter.size * plate.height;
  if (pixels <= 0) return;
  plates.within(() => {
    switch (filter.form) {
      case 'blur':
        return blurPlate(plates, plate, pixels);
      case 'box blur':
        return boxBlur(plate, pixels);
      case 'glow':
        return glow(plates, plate, pixels, filter.amount);
      case 'edge':
        return edges(plates, plate, pixels, filter.amount);
      case 'sharpen':
        return sharpen(plates, plate, pixels, filter.amount);
      case 'mosaic':
        return mosaic(plate, Math.max(1, pixels));
      case 'displace':
        return displace(plates, plate, filter, pixels, seconds);
      case 'directional blur': {
        const [dx, dy] = [cos(filter.angle * DEGREES) * pixels, -sin(filter.angle * DEGREES) * pixels];
        return streak(plates, plate, filter, ALONG, [dx, dy], pixels);
      }
      default: {
        const farthest = Math.sqrt(plate.width * plate.width + plate.height * plate.height) * filter.size;
        return streak(plates, plate, filter, filter.form === 'zoom blur' ? OUTWARD : ROUND, [filter.size, 0], farthest);
      }
    }
  });
}

function streak(
  plates: Plates,
  plate: Plate,
  { x, y }: Filter,
  mode: number,
  [dx, dy]: readonly [number, number],
  longest: number,
): void {
  const { width, height, at } = plate;
  const [middleX, middleY] = [width / 2 + x * height, height / 2 - y * height];
  const from = plates.raw(width, height);
  // Few samples far apart, then as many between two of them: together each pixel of the line.
  const apart = Math.max(1, Math.ceil(Math.sqrt(longest)));
  const between = Math.max(1, Math.ceil(longest / apart));
  for (const [share, samples] of [
    [1, apart],
    [1 / apart, between],
  ]) {
    from.data.set(plate.data);
    plates.kernel.streak(
      ...([from.at, at, width, height, mode, dx * share, dy * share] as const),
      ...([middleX, middleY, samples] as const),
    );
  }
}

/** Unsharp masking: what differs from a blurred picture, more so; no light below nothing. */
function sharpen(plates: Plates, plate: Plate, sigma: number, amount: number): void {
  const soft = plates.copy(plate);
  blurPlate(plates, soft, sigma);
  plates.kernel.mixColours(plate.at, soft.at, plate.width * plate.height, -amount);
  const { data } = plate;
  for (let i = 0; i < data.length; i++) if (data[i] < 0) data[i] = 0;
}

/** Means over a square, parts of pixels at its sides by their share; beyond the edge the outermost pixels go on. @param side in pixels. */
function boxBlur({ width, height, data }: Plate, side: number): void {
  const half = Math.max(1, side) / 2;
  const line = (first: number, count: number, step: number, sums: Float64Array): void => {
    for (let c = 0; c < 4; c++) {
      const from = first + c;
      const [begin, end] = [data[from], data[from + (count - 1) * step]];
      for (let i = 0; i < count; i++) sums[i + 1] = sums[i] + data[from + i * step];
      // The sum of all up to a place between pixels' edges.
      const upTo = (at: number): number => {
        if (at <= 0) return at * begin;
        if (at >= count) return sums[count] + (at - count) * end;
        const whole = Math.floor(at);
        return sums[whole] + (at - whole) * (sums[whole + 1] - sums[whole]);
      };
      for (let i = 0; i < count; i++) means[i] = (upTo(i + 0.5 + half) - upTo(i + 0.5 - half)) / (2 * half);
      for (let i = 0; i < count; i++) data[from + i * step] = means[i];
    }
  };
  const longest = Math.max(width, height);
  const sums = new Float64Array(longest + 1);
  const means = new Float64Array(longest);
  for (let y = 0; y < height; y++) line(y * width * 4, width, 4, sums);
  for (let x = 0; x < width; x++) line(x * 4, height, width * 4, sums);
}

/** Light above this, as the brightest channel has it, glows. */
const GLOWS_ABOVE = 0.5;

/** Adds what is bright once more, blurred. */
function glow(plates: Plates, plate: Plate, sigma: number, amount: number): void {
  const bright = plates.copy(plate);
  const { data } = bright;
  for (let i = 0; i < data.length; i += 4) {
    const most = Math.max(data[i], data[i + 1], data[i + 2]);
    const share = most > GLOWS_ABOVE ? (most - GLOWS_ABOVE) / most : 0;
    for (let c = 0; c < 3; c++) data[i + c] *= share;
  }
  blurPlate(plates, bright, sigma);
  plates.kernel.addTinted(plate.at, bright.at, plate.width * plate.height, amount, amount, amount);
}

/**
 * Edges alone: the gradient of the blurred picture (Canny 1986), so scaled that at a step it is as bright as the step is high. Alpha is
 * left.
 */
function edges(plates: Plates, plate: Plate, size: number, amount: number): void {
  const sigma = Math.max(0.8, size);
  const soft = plates.copy(plate);
  blurPlate(plates, soft, sigma);
  const { width, height, data } = plate;
  const from = soft.data;
  const scale = (amount * sigma * Math.sqrt(2 * Math.PI)) / 2;
  for (let y = 0; y < height; y++) {
    const [above, below] = [Math.max(0, y - 1) * width, Math.min(height - 1, y + 1) * width];
    for (let x = 0; x < width; x++) {
      const o = (y * width + x) * 4;
      const [left, right] = [(y * width + Math.max(0, x - 1)) * 4, (y * width + Math.min(width - 1, x + 1)) * 4];
      for (let c = 0; c < 3; c++) {
        const dx = from[right + c] - from[left + c];
        const dy = from[(below + x) * 4 + c] - from[(above + x) * 4 + c];
        data[o + c] = scale * Math.sqrt(dx * dx + dy * dy);
      }
    }
  }
}

/** Moves every place along an angle, as far as another picture is brighter or darker than half there. @param map a number a pixel, 0..1. */
export function displaceBy(plates: Plates, plate: Plate, filter: Filter, map: Floats): void {
  plates.within(() => {
    const { width, height, at } = plate;
    const [across, down, from] = [plates.raw(width, height), plates.raw(width, height), plates.copy(plate)];
    const [dx, dy] = [cos(filter.angle * DEGREES), -sin(filter.angle * DEGREES)];
    const [u, v, by] = [across.data, down.data, map.data];
    for (let i = 0; i < by.length; i++) {
      const away = by[i] - 0.5;
      u[i * 4 + 3] = 0.5 - away * dx;
      v[i * 4 + 3] = 0.5 - away * dy;
    }
    plates.kernel.displace(from.at, across.at, down.at, at, width, height, filter.size * height * filter.amount);
  });
}

/** Cells of one colour each, the mean of what they cover; one has its corner in the picture's middle. */
function mosaic({ width, height, data }: Plate, cell: number): void {
  const edges = (length: number): number[] => {
    const first = length / 2 - Math.ceil(length / 2 / cell) * cell;
    const list: number[] = [];
    for (let at = first; at < length + cell; at += cell) list.push(Math.min(length, Math.max(0, Math.round(at))));
    return list;
  };
  const [columns, rows] = [edges(width), edges(height)];
  const sum = [0, 0, 0, 0];
  for (let j = 1; j < rows.length; j++)
    for (let i = 1; i < columns.length; i++) {
      const count = (rows[j] - rows[j - 1]) * (columns[i] - columns[i - 1]);
      if (count === 0) continue;
      sum.fill(0);
      const each = (visit: (at: number) => void): void => {
        for (let y = rows[j - 1]; y < rows[j]; y++)
          for (let x = columns[i - 1]; x < columns[i]; x++) visit((y * width + x) * 4);
      };
      each((at) => {
        for (let c = 0; c < 4; c++) sum[c] += data[at + c];
      });
      each((at) => {
        for (let c = 0; c < 4; c++) data[at + c] = sum[c] / count;
      });
    }
}

/** Moves every place by noise that drifts and changes, as hot air does. */
function displace(plates: Plates, plate: Plate, filter: Filter, pixels: number, seconds: number): void {
  const { width, height, at } = plate;
  const place = placeOf({ x: 0, y: 0, scale: 1, stretch: 1, rotation: 0 }, width, height);
  const noise = (turn: number): Plate => {
    const { grain: size, evolve, seed } = filter;
    const values = { size, evolve, detail: 3, contrast: 1, brightness: 0, drift: 0, rise: evolve * size };
    const layer = newLayer('vapour', 'noise', 'Noise', { ...values, seed: seed * 2 + turn } as never);
    const out = plates.raw(width, height);
    drawVapour(plates, out, place, layer as LayerOf<'vapour'>, [1, 1, 1], seconds);
    return out;
  };
  const [across, down, from] = [noise(0), noise(1), plates.copy(plate)];
  plates.kernel.displace(from.at, across.at, down.at, at, width, height, pixels * filter.amount);
}
