import { cos, exp, hypot, pow, seeded, sin } from '../maths/index.ts';
/** Pictures that lie over lights: gradients on their faces and cut-out slides before them. RGBA bytes, rows from the top. */
export interface LightPicture {
  width: number;
  height: number;
  data: Uint8Array;
}

const SIZE = 256;

function paint(size: number, value: (x: number, y: number) => number): LightPicture {
  const data = new Uint8Array(size * size * 4);
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      const v = Math.round(255 * Math.min(1, Math.max(0, value((x + 0.5) / size, (y + 0.5) / size))));
      data.set([v, v, v, 255], (y * size + x) * 4);
    }
  }
  return { width: size, height: size, data };
}

function smooth(a: number, b: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
  return t * t * (3 - 2 * t);
}

/** Linear brightness over a light's face, brightest place 1: a hot middle, or a fall-off across or down. */
export function gradientPicture(gradient: 'round' | 'across' | 'down'): LightPicture {
  return paint(64, (x, y) => {
    if (gradient === 'across') return 0.04 + 0.96 * smooth(0, 1, x);
    if (gradient === 'down') return 0.04 + 0.96 * smooth(1, 0, y);
    return 0.03 + 0.97 * exp(-((pow(x - 0.5, 2) + pow(y - 0.5, 2)) / 0.06));
  });
}

/** Mean of a picture's first channel, 0..1. */
export function meanOf({ data }: LightPicture): number {
  let sum = 0;
  for (let i = 0; i < data.length; i += 4) sum += data[i];
  return sum / (data.length / 4) / 255;
}

/**
 * A cut-out slide: 1 lets light through. The same pattern, repeat and seed give the same bytes.
 * @param repeat how many times the pattern fits across.
 */
export function goboPicture(
  pattern: 'blinds' | 'window' | 'leaves' | 'dots' | 'breakup',
  repeat: number,
  seed: number,
): LightPicture {
  const random = seeded(seed);
  const edge = 1.5 / SIZE;
  const cut = (d: number): number => smooth(-edge, edge, d);
  switch (pattern) {
    case 'blinds':
      return paint(SIZE, (_, y) => {
        const d = Math.abs(((y * repeat) % 1) - 0.5);
        return cut((0.3 - d) / repeat);
      });
    case 'window':
      return paint(SIZE, (x, y) => {
        // Panes between bars, in a frame.
        const bar = (v: number): number => 0.44 - Math.abs(((v * repeat) % 1) - 0.5);
        return cut(Math.min(bar(x), bar(y)) / repeat);
      });
    case 'dots':
      return paint(SIZE, (x, y) => {
        const row = Math.floor(y * repeat);
        const d = hypot(((x * repeat + (row % 2) / 2) % 1) - 0.5, ((y * repeat) % 1) - 0.5);
        return cut((0.32 - d) / repeat);
      });
    case 'leaves':
      return leaves(repeat, random, cut);
    case 'breakup': {
      const noise = valueNoise(random);
      return paint(SIZE, (x, y) => {
        const v = noise(x * repeat, y * repeat) * 0.6 + noise(x * repeat * 2.3 + 7, y * repeat * 2.3) * 0.4;
        return smooth(0.42, 0.56, v);
      });
    }
  }
}

/** Branches with leaves held before the light: light between them. */
function leaves(repeat: number, random: () => number, cut: (d: number) => number): LightPicture {
  const shapes = Array.from({ length: repeat * repeat * 4 }, () => {
    const a = random() * Math.PI * 2;
    const length = (0.35 + 0.4 * random()) / repeat;
    return {
      x: random(),
      y: random(),
      cos: cos(a),
      sin: sin(a),
      length,
      width: length * (0.22 + 0.12 * random()),
    };
  });
  return paint(SIZE, (x, y) => {
    let open = 1;
    for (const s of shapes) {
      const [dx, dy] = [x - s.x, y - s.y];
      const along = (dx * s.cos + dy * s.sin) / s.length;
      if (Math.abs(along) > 1) continue;
      // Two arcs that meet in points: a leaf.
      const half = s.width * (1 - along * along);
      const across = Math.abs(dy * s.cos - dx * s.sin);
      open = Math.min(open, cut(across - half));
    }
    return open;
  });
}

/** Smooth noise between random values on a grid that repeats every 64 cells. */
function valueNoise(random: () => number): (x: number, y: number) => number {
  const grid = Float32Array.from({ length: 64 * 64 }, random);
  const at = (x: number, y: number): number => grid[(y & 63) * 64 + (x & 63)];
  return (x, y) => {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [smooth(0, 1, x - i), smooth(0, 1, y - j)];
    const top = at(i, j) + (at(i + 1, j) - at(i, j)) * u;
    const low = at(i, j + 1) + (at(i + 1, j + 1) - at(i, j + 1)) * u;
    return top + (low - top) * v;
  };
}
