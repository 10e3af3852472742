import type { Covered, DepthFrame, FrameDepths, LightFrame } from './light-frame.ts';

/** Which pixels of a line lie in each of fewer: the first of them, and `most` shares of each. */
interface Shares {
  first: Uint32Array;
  most: number;
  shares: Float32Array;
}

function sharesOf(from: number, to: number): Shares {
  const step = from / to;
  const most = Math.min(from, Math.ceil(step) + 1);
  const [first, shares] = [new Uint32Array(to), new Float32Array(to * most)];
  for (let n = 0; n < to; n++) {
    const [low, high] = [n * step, (n + 1) * step];
    // At the end those before it are among them, with no share.
    first[n] = Math.min(from - most, Math.floor(low));
    for (let k = 0; k < most; k++) {
      const at = first[n] + k;
      shares[n * most + k] = Math.max(0, Math.min(at + 1, high) - Math.max(at, low)) / step;
    }
  }
  return { first, most, shares };
}

/** Numbers of a picture averaged over the area of each pixel of a smaller one. */
function averaged(
  data: Float32Array,
  channels: number,
  [width, height]: readonly [number, number],
  [wide, high]: readonly [number, number],
): Float32Array {
  const [across, down] = [sharesOf(width, wide), sharesOf(height, high)];
  const out = new Float32Array(wide * high * channels);
  const line = new Float32Array(width * channels);
  for (let y = 0, to = 0; y < high; y++) {
    line.fill(0);
    for (let k = 0; k < down.most; k++) {
      const part = down.shares[y * down.most + k];
      if (part === 0) continue;
      const row = (down.first[y] + k) * line.length;
      for (let i = 0; i < line.length; i++) line[i] += data[row + i] * part;
    }
    for (let x = 0; x < wide; x++)
      for (let c = 0; c < channels; c++, to++) {
        let sum = 0;
        let from = across.first[x] * channels + c;
        for (let k = x * across.most; k < (x + 1) * across.most; k++, from += channels)
          sum += line[from] * across.shares[k];
        out[to] = sum;
      }
  }
  return out;
}

/** A frame's depths in fewer pixels: those of the pixel in the middle of each, since depths of two things have no mean. Colours have. */
function smallDepths(
  { depths }: DepthFrame,
  [width, height]: readonly [number, number],
  [wide, high]: readonly [number, number],
): FrameDepths | undefined {
  if (!depths) return undefined;
  const depth = new Float32Array(wide * high);
  const blank = (): Pick<Covered, 'ids' | 'covers'> => ({
    ids: new Uint8Array(wide * high * 2),
    covers: new Uint8Array(wide * high * 2),
  });
  const things = blank();
  const finishes = depths.finishes && { names: depths.finishes.names, ...blank() };
  const pairs = [
    [depths.ids, things.ids],
    [depths.covers, things.covers],
    ...(finishes
      ? [
          [depths.finishes!.ids, finishes.ids],
          [depths.finishes!.covers, finishes.covers],
        ]
      : []),
  ];
  const columns = Uint32Array.from({ length: wide }, (_, x) => Math.floor(((x + 0.5) * width) / wide));
  for (let y = 0, to = 0; y < high; y++) {
    const row = Math.floor(((y + 0.5) * height) / high) * width;
    for (let x = 0; x < wide; x++, to++) {
      const from = row + columns[x];
      depth[to] = depths.depth[from];
      for (const [all, few] of pairs) {
        few[to * 2] = all[from * 2];
        few[to * 2 + 1] = all[from * 2 + 1];
      }
    }
  }
  const [from, to] = [[width, height] as const, [wide, high] as const];
  const tint = depths.tint && averaged(depths.tint, 3, from, to);
  const motion = depths.motion && averaged(depths.motion, 2, from, to);
  return { ...depths, depth, ...things, finishes, tint, motion };
}

/** The last smaller one of each frame: a composite that is worked on is made of it again and again. */
const known = new WeakMap<LightFrame, LightFrame>();

/**
 * A take's frame in fewer pixels: light and coverage averaged over the area of each. Composites that are made small, for a quick look, are made of
 * it, so that all of their work is less.
 */
export function smallLight(frame: LightFrame, wide: number, high: number): LightFrame {
  const { width, height, light, matte } = frame;
  if (wide >= width && high >= height) return frame;
  const last = known.get(frame);
  if (last?.width === wide && last.height === high) return last;
  const [from, to] = [[width, height] as const, [wide, high] as const];
  const made: LightFrame = {
    ...{ width: wide, height: high },
    light: averaged(light, 3, from, to),
    matte: averaged(matte, 1, from, to),
    depths: smallDepths(frame, from, to),
  };
  known.set(frame, made);
  return made;
}
