import { Problem } from '../problem/index.ts';

/**
 * A layer's picture while it is worked on: four floats a pixel, premultiplied, rows from the top. In scene space linear Rec.709 where
 * 1 is white before the view transform and light may be above it; on the glass sRGB from 0 to 1.
 */
export interface Plate {
  readonly width: number;
  readonly height: number;
  /** Where it lies in the kernel's memory. */
  readonly at: number;
  /** Its numbers; asked for anew after another plate was made, when memory may have moved. */
  readonly data: Float32Array;
}

/** Pixels of a picture, `right` and `bottom` not among them. */
export interface PixelBox {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Where more of a plate is than `least`, by its alpha; null where nothing is. */
export function contentOf({ width, height, data }: Plate, least: number): PixelBox | null {
  let [left, right, top, bottom] = [width, 0, height, 0];
  for (let y = 0; y < height; y++) {
    const row = y * width * 4 + 3;
    let x = 0;
    while (x < width && !(data[row + x * 4] > least)) x++;
    if (x === width) continue;
    if (x < left) left = x;
    x = width;
    while (!(data[row + x * 4 - 4] > least)) x--;
    if (x > right) right = x;
    if (y < top) top = y;
    bottom = y + 1;
  }
  return right === 0 ? null : { left, right, top, bottom };
}

/** Numbers of any use in the kernel's memory. */
export interface Floats {
  readonly at: number;
  readonly data: Float32Array;
}

/** What kernel/assembly/picture offers; addresses are in bytes. */
export interface PictureExports {
  blend(below: number, over: number, count: number, mode: number, opacity: number): void;
  cover(plate: number, coverage: number, count: number): void;
  restore(plate: number, before: number, count: number, amount: number, mask: number): void;
  halve(from: number, width: number, height: number, to: number): void;
  shrink(from: number, width: number, height: number, to: number, row: number): void;
  widen(from: number, width: number, height: number, to: number, row: number): void;
  smooth(
    ...[from, width, height, weights, reach, middle, row, to, gain, add]: [
      ...[number, number, number, number, number, number, number, number, number, number],
    ]
  ): void;
  warp(from: number, w: number, h: number, to: number, width: number, height: number, numbers: number): void;
  cube(plate: number, count: number, table: number, size: number, dimensions: number, numbers: number): void;
  pin(numbers: number, to: number, width: number, height: number): void;
  spread(motion: number, depth: number, width: number, height: number, room: number): void;
  carry(
    from: number,
    next: number,
    to: number,
    width: number,
    height: number,
    fromMotion: number,
    nextMotion: number,
    depth: number,
    share: number,
  ): void;
  split(plate: number, count: number, planes: number): void;
  bend(planes: number, width: number, height: number, to: number, distortion: number, fringe: number): void;
  grade(plate: number, count: number, numbers: number, amount: number, mask: number): void;
  seen(from: number, to: number, count: number, view: number, bytes: number): void;
  recode(plate: number, count: number, toLight: number): void;
  toBytes(from: number, count: number, to: number): void;
  opaque(from: number, to: number, count: number, gain: number): void;
  mixColours(plate: number, other: number, count: number, amount: number): void;
  overWhite(plate: number, to: number, count: number): void;
  addTinted(plate: number, other: number, count: number, r: number, g: number, b: number): void;
  vignette(plate: number, width: number, height: number, first: number, end: number, strength: number): void;
  grainPoints(points: number, columns: number, lines: number, width: number, cell: number, salt: number): void;
  grain(
    ...[plate, width, first, end, points, columns, lines, cell, strength]: [
      ...[number, number, number, number, number, number, number, number, number],
    ]
  ): void;
  streak(
    ...[from, to, width, height, mode, dx, dy, middleX, middleY, samples]: [
      ...[number, number, number, number, number, number, number, number, number, number],
    ]
  ): void;
  displace(
    ...[from, across, down, to, width, height, reach]: [number, number, number, number, number, number, number]
  ): void;
  gradient(
    ...[to, width, height, top, numbers, form, table, noise, scene]: [
      ...[number, number, number, number, number, number, number, number, number],
    ]
  ): void;
  layLattice(numbers: number, to: number): void;
  vapour(
    ...[to, width, height, numbers, lattice, depths, octaves, r, g, b]: [
      ...[number, number, number, number, number, number, number, number, number, number],
    ]
  ): void;
}

/** The picture kernel on a memory of its own. */
export interface PictureKernel {
  memory: { readonly buffer: ArrayBufferLike; grow(pages: number): number };
  exports: PictureExports;
}

const PAGE = 65536;
/** What the module keeps of its own lies below this address. */
const BASE = 65536;
const ALIGN = 64;

/**
 * A stack of plates in the memory of a picture kernel: what is made within a piece of work is gone after it. What asks for more than
 * there is throws Problem `composite/memory`.
 */
export class Plates {
  readonly kernel: PictureExports;
  private top = BASE;
  private readonly memory: PictureKernel['memory'];

  constructor({ memory, exports }: PictureKernel) {
    this.memory = memory;
    this.kernel = exports;
  }

  /** An empty plate. */
  make(width: number, height: number): Plate {
    const plate = this.raw(width, height);
    plate.data.fill(0);
    return plate;
  }

  /** A plate whose numbers are what lay there: for one that is written over. */
  raw(width: number, height: number): Plate {
    return this.plateAt(this.reserve(width * height * 4).at, width, height);
  }

  /** Rows of a plate that lie one after the other, as a plate of their own. */
  part(at: number, width: number, height: number): Plate {
    return this.plateAt(at, width, height);
  }

  copy(plate: Plate): Plate {
    const copy = this.raw(plate.width, plate.height);
    copy.data.set(plate.data);
    return copy;
  }

  /** Room for numbers; what lay there is not cleared. */
  floats(count: number): Floats {
    const { at } = this.reserve(count);
    const view = (): Float32Array => this.view(at, count);
    return {
      at,
      get data() {
        return view();
      },
    };
  }

  /** Numbers in the kernel's memory. */
  store(numbers: ArrayLike<number>): Floats {
    const floats = this.floats(numbers.length);
    floats.data.set(numbers);
    return floats;
  }

  /** Doubles in the kernel's memory. @returns where. */
  doubles(numbers: readonly number[]): number {
    const { at } = this.reserve(numbers.length * 2);
    new Float64Array(this.memory.buffer, at, numbers.length).set(numbers);
    return at;
  }

  /** Bytes that the kernel wrote. */
  bytes(at: number, count: number): Uint8ClampedArray {
    return new Uint8ClampedArray(this.memory.buffer, at, count);
  }

  /** Works with plates that are gone afterwards. */
  within<T>(work: () => T): T {
    const mark = this.top;
    try {
      return work();
    } finally {
      this.top = mark;
    }
  }

  private plateAt(at: number, width: number, height: number): Plate {
    const view = (): Float32Array => this.view(at, width * height * 4);
    return {
      ...{ width, height, at },
      get data() {
        return view();
      },
    };
  }

  private view(at: number, count: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, count);
  }

  private reserve(count: number): { at: number } {
    const at = this.top;
    // Sixteen more numbers: the kernel works on whole fours of pixels.
    const end = at + Math.ceil(((count + 16) * 4) / ALIGN) * ALIGN;
    const missing = Math.ceil((end - this.memory.buffer.byteLength) / PAGE);
    if (missing > 0) this.grow(missing);
    this.top = end;
    return { at };
  }

  private grow(pages: number): void {
    try {
      this.memory.grow(pages);
    } catch {
      throw new Problem(
        'composite/memory',
        'There is not enough memory for a picture of this size: make the promo or the take smaller.',
        'Picture size',
      );
    }
  }
}
