import type { Picture } from './picture.ts';

export const SCOPES = ['waveform', 'parade', 'vectorscope', 'histogram'] as const;
export type ScopeKind = (typeof SCOPES)[number];

/** Counts of a picture's values, rows from the top; red, green and blue apart, or alike where a scope has one colour. */
export interface Scope {
  width: number;
  height: number;
  /** Three counts a cell. */
  counts: Float32Array;
}

/** Rec.709 weights of display-referred luma. */
const [R, G, B] = [0.2126, 0.7152, 0.0722];
/** What a full-range chroma difference is divided by (Rec.709: 2 (1 - weight)). */
const [CB, CR] = [2 * (1 - B), 2 * (1 - R)];

const empty = (width: number, height: number): Scope => ({
  width,
  height,
  counts: new Float32Array(width * height * 3),
});

/** Which row a value from 0 to 255 lies in: white at the top. */
const rowOf = (value: number, height: number): number => Math.round((1 - value / 255) * (height - 1));

/** Luma over the picture's columns. */
function waveform({ width, height, data }: Picture, scope: Scope): void {
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const luma = R * data[i] + G * data[i + 1] + B * data[i + 2];
      const at = (rowOf(luma, scope.height) * scope.width + Math.floor((x * scope.width) / width)) * 3;
      for (let c = 0; c < 3; c++) scope.counts[at + c]++;
    }
}

/** Red, green and blue over the picture's columns, side by side. */
function parade({ width, height, data }: Picture, scope: Scope): void {
  const third = Math.floor(scope.width / 3);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4)
      for (let c = 0; c < 3; c++) {
        const column = c * third + Math.floor((x * third) / width);
        scope.counts[(rowOf(data[i + c], scope.height) * scope.width + column) * 3 + c]++;
      }
}

/** Chroma: Cb to the right, Cr upwards, grey in the middle; each cell in the colour that it stands for. */
function vectorscope({ data }: Picture, scope: Scope): void {
  const { width, height, counts } = scope;
  for (let i = 0; i < data.length; i += 4) {
    const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
    const luma = R * r + G * g + B * b;
    const [cb, cr] = [(b - luma) / CB / 255, (r - luma) / CR / 255];
    const x = Math.min(width - 1, Math.max(0, Math.round((0.5 + cb) * (width - 1))));
    const y = Math.min(height - 1, Math.max(0, Math.round((0.5 - cr) * (height - 1))));
    const at = (y * width + x) * 3;
    const most = Math.max(r, g, b, 1);
    counts[at] += r / most;
    counts[at + 1] += g / most;
    counts[at + 2] += b / most;
  }
}

/** How often each value is met, dark at the left: columns filled from below. */
function histogram({ data }: Picture, scope: Scope): void {
  const { width, height, counts } = scope;
  const bins = new Float32Array(width * 3);
  for (let i = 0; i < data.length; i += 4)
    for (let c = 0; c < 3; c++) bins[Math.floor((data[i + c] * width) / 256) * 3 + c]++;
  let most = 1;
  // Clipped ends would press all else flat.
  for (let x = 1; x < width - 1; x++) for (let c = 0; c < 3; c++) most = Math.max(most, bins[x * 3 + c]);
  for (let x = 0; x < width; x++)
    for (let c = 0; c < 3; c++) {
      const high = Math.min(height, Math.round((bins[x * 3 + c] / most) * height));
      for (let y = height - high; y < height; y++) counts[(y * width + x) * 3 + c] = 1;
    }
}

const DRAW: Record<ScopeKind, (picture: Picture, scope: Scope) => void> = {
  waveform,
  parade,
  vectorscope,
  histogram,
};

/** A scope of a whole picture, so many cells wide and high. */
export function scopeOf(kind: ScopeKind, picture: Picture, width: number, height: number): Scope {
  const scope = empty(width, height);
  DRAW[kind](picture, scope);
  return scope;
}

/** A scope as a picture: brighter where more pixels lie, so that single ones can still be seen. */
export function drawScope({ width, height, counts }: Scope, kind: ScopeKind): Picture {
  const data = new Uint8ClampedArray(width * height * 4);
  let most = 1;
  for (let i = 0; i < counts.length; i++) if (counts[i] > most) most = counts[i];
  // A square root of a square root shows a thousandth of the most as a sixth.
  const gain = kind === 'histogram' ? 200 : 255 / Math.sqrt(Math.sqrt(most));
  for (let i = 0, o = 0; o < data.length; i += 3, o += 4) {
    for (let c = 0; c < 3; c++)
      data[o + c] = kind === 'histogram' ? counts[i + c] * gain : Math.sqrt(Math.sqrt(counts[i + c])) * gain;
    data[o + 3] = 255;
  }
  return { width, height, data };
}
