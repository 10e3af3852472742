import { makePicture, type Picture } from './picture.ts';

/**
 * Fits `source` into `width` x `height` keeping its proportion, centred on black, with a Catmull-Rom filter (widened
 * when shrinking, so that nothing aliases). Works on display values: the small overshoot of the filter is clipped.
 */
export function fitPicture(source: Picture, width: number, height: number): Picture {
  if (source.width === width && source.height === height) return source;
  const scale = Math.min(width / source.width, height / source.height);
  const w = Math.max(1, Math.round(source.width * scale));
  const h = Math.max(1, Math.round(source.height * scale));
  const scaled = resize(source, w, h);
  if (w === width && h === height) return scaled;
  const out = makePicture(width, height);
  const left = (width - w) >> 1;
  const top = (height - h) >> 1;
  for (let y = 0; y < h; y++) {
    out.data.set(scaled.data.subarray(y * w * 4, (y + 1) * w * 4), ((y + top) * width + left) * 4);
  }
  return out;
}

function resize(source: Picture, width: number, height: number): Picture {
  const across = filterTaps(source.width, width);
  const down = filterTaps(source.height, height);
  const middle = new Float32Array(width * source.height * 3);
  for (let y = 0; y < source.height; y++) {
    for (let x = 0; x < width; x++) {
      let r = 0;
      let g = 0;
      let b = 0;
      for (let k = across.start[x]; k < across.start[x + 1]; k++) {
        const at = (y * source.width + across.index[k]) * 4;
        const weight = across.weight[k];
        r += source.data[at] * weight;
        g += source.data[at + 1] * weight;
        b += source.data[at + 2] * weight;
      }
      const o = (y * width + x) * 3;
      middle[o] = r;
      middle[o + 1] = g;
      middle[o + 2] = b;
    }
  }
  const out = makePicture(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let r = 0;
      let g = 0;
      let b = 0;
      for (let k = down.start[y]; k < down.start[y + 1]; k++) {
        const at = (down.index[k] * width + x) * 3;
        const weight = down.weight[k];
        r += middle[at] * weight;
        g += middle[at + 1] * weight;
        b += middle[at + 2] * weight;
      }
      const o = (y * width + x) * 4;
      out.data[o] = r;
      out.data[o + 1] = g;
      out.data[o + 2] = b;
    }
  }
  return out;
}

/** For each output sample the source samples and weights (summing to one) it is made of. */
function filterTaps(from: number, to: number): { start: Int32Array; index: Int32Array; weight: Float32Array } {
  const ratio = from / to;
  const widen = Math.max(1, ratio);
  const start = new Int32Array(to + 1);
  const index: number[] = [];
  const weight: number[] = [];
  for (let o = 0; o < to; o++) {
    const centre = (o + 0.5) * ratio - 0.5;
    const first = Math.ceil(centre - 2 * widen);
    const last = Math.floor(centre + 2 * widen);
    const at = weight.length;
    let sum = 0;
    for (let i = first; i <= last; i++) {
      const w = catmullRom((i - centre) / widen);
      index.push(Math.min(from - 1, Math.max(0, i)));
      weight.push(w);
      sum += w;
    }
    for (let k = at; k < weight.length; k++) weight[k] /= sum;
    start[o + 1] = weight.length;
  }
  return { start, index: Int32Array.from(index), weight: Float32Array.from(weight) };
}

function catmullRom(x: number): number {
  const t = Math.abs(x);
  if (t < 1) return 1.5 * t * t * t - 2.5 * t * t + 1;
  if (t < 2) return -0.5 * t * t * t + 2.5 * t * t - 4 * t + 2;
  return 0;
}
