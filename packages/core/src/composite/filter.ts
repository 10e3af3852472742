import { newLayer, type LayerOf } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, sin } from '../maths/index.ts';
import { blurPlate } from './blur.ts';
import { drawVapour } from './noise.ts';
import { placeOf } from './place.ts';
import type { Plate, Plates } from './plate.ts';

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
