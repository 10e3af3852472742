import {
  applyCube,
  applyGrade,
  applyLens,
  blend,
  blurPlate,
  gaussianWeights,
  pin,
  placeOf,
  Plates,
  readCube,
  writeCube,
} from '@tender-orbit/core/composite';
import { Pyramid, warp, type PictureKernel, type Plate } from '@tender-orbit/core/composite';
import { instantiateKernel } from '@tender-orbit/kernel';
import { newLayer, type LayerOf } from '@tender-orbit/core/document';
import { inTurn, type Bench } from './bench.ts';
import { moduleOf } from './kernel.ts';
import { plainCube, plainGrade, plainPin, plainSmooth, plainView } from './plain-picture.ts';

const [WIDTH, HEIGHT] = [1920, 1080];

interface Full {
  plates: Plates;
  plate: (alpha: number) => Plate;
}

/** A picture kernel, and pictures of full HD for it. */
function full(): Full {
  const plates = new Plates(instantiateKernel(moduleOf('picture')) as unknown as PictureKernel);
  return {
    plates,
    plate: (alpha) => {
      const made = plates.raw(WIDTH, HEIGHT);
      const { data } = made;
      for (let i = 0; i < data.length; i++) data[i] = (i & 3) === 3 ? alpha : ((i * 7) % 101) * 0.01 * alpha;
      return made;
    },
  };
}

/** What the compositor takes for a picture of full HD, on one thread. */
export const pictureBenches: Bench[] = [
  {
    name: 'picture/blend-over-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const [below, over] = [plate(1), plate(0.5)];
      const [a, b, sum] = [below.data.slice(), over.data.slice(), new Float32Array(below.data.length)];
      // The bound: both are read and one of them is written.
      const [ms, bound] = await inTurn(9, [
        () => blend(plates, below, over, 'over', 0.5),
        () => {
          for (let i = 0; i < sum.length; i++) sum[i] = a[i] + 0.5 * b[i];
        },
      ]);
      return {
        value: ms,
        note: `a plain loop of as many reads and writes: ${bound.toFixed(1)} ms (${(ms / bound).toFixed(2)}x)`,
      };
    },
  },
  {
    name: 'picture/gauss-12-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const picture = plate(1);
      const plain = picture.data.slice();
      const weights = gaussianWeights(12);
      const [twelve, two, hundred, loops] = await inTurn(3, [
        () => blurPlate(plates, picture, 12),
        () => blurPlate(plates, picture, 2),
        () => blurPlate(plates, picture, 100),
        () => plainSmooth(plain, WIDTH, HEIGHT, weights),
      ]);
      return {
        value: twelve,
        note: `sigma 2: ${two.toFixed(0)} ms, sigma 100: ${hundred.toFixed(0)} ms; plain loops: ${loops.toFixed(0)} ms`,
      };
    },
  },
  {
    name: 'picture/grade-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const picture = plate(1);
      const plain = picture.data.slice();
      const values = { contrast: 1.1, saturation: 1.1, powerRed: 1.05 };
      const grade = newLayer('grade', 'g', 'Grade', values as never) as LayerOf<'grade'>;
      const [ms, loops] = await inTurn(3, [
        () => applyGrade(plates, picture, grade, 1, null),
        () => plainGrade(plain, grade),
      ]);
      return { value: ms, note: `a power, contrast and saturation; plain loops: ${(loops / ms).toFixed(1)}x` };
    },
  },
  {
    name: 'picture/finish-chain-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const picture = plate(1);
      const plain = picture.data.slice();
      const shown = plates.raw(WIDTH, HEIGHT);
      const values = { bloom: 0.1, vignette: 0.3, grain: 0.2, fringing: 0.3, halation: 0 };
      const lens = newLayer('lens', 'l', 'Lens', values as never) as LayerOf<'lens'>;
      const [ms, loops] = await inTurn(3, [
        () => {
          applyLens(plates, picture, lens, 1);
          plates.kernel.seen(picture.at, shown.at, WIDTH * HEIGHT, 1, 0);
        },
        () => plainView(plain, WIDTH, HEIGHT),
      ]);
      return {
        value: ms,
        note: `bloom, vignette, grain, fringing and view; vignette and view alone as plain loops: ${loops.toFixed(0)} ms`,
      };
    },
  },
  {
    name: 'picture/grade-lut-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const picture = plate(1);
      const plain = picture.data.slice();
      const cube = readCube(
        writeCube('Bench', 33, (rgb) => rgb.set([rgb[0] * 0.9 + 0.05, rgb[1] * rgb[1], 1 - rgb[2]])),
        'bench',
      );
      const [ms, loops] = await inTurn(3, [() => applyCube(plates, picture, cube), () => plainCube(plain, cube)]);
      return { value: ms, note: `a lattice of 33 points a side; plain loops: ${(loops / ms).toFixed(1)}x` };
    },
  },
  {
    name: 'picture/corner-pin-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const [picture, target] = [plate(1), plates.raw(WIDTH, HEIGHT)];
      const [from, to] = [picture.data.slice(), new Float32Array(WIDTH * HEIGHT * 4)];
      const lean = { x: 0, y: 0, scale: 1, stretch: 1, rotation: 0, tilt: 20, turn: -30 };
      const place = placeOf(lean, WIDTH, HEIGHT);
      const whole = { corner: 0, view: 1, scroll: 0 };
      const [ms, loops] = await inTurn(9, [
        () => plates.within(() => pin(plates, target, new Pyramid(plates, picture), place, 1, whole)),
        () => plainPin(from, to, WIDTH, HEIGHT, place),
      ]);
      return { value: ms, note: `a card that leans in space; plain loops: ${(loops / ms).toFixed(1)}x` };
    },
  },
  {
    name: 'picture/carry-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const [from, next, target] = [plate(1), plate(1), plates.raw(WIDTH, HEIGHT)];
      // Everything turns about the middle, up to six pixels a frame.
      const [was, is] = [0, 1].map(() => plates.floats(WIDTH * HEIGHT * 2));
      for (const { data } of [was, is])
        for (let i = 0; i < data.length; i += 2) {
          data[i] = (Math.floor(i / 2 / WIDTH) - HEIGHT / 2) / 180;
          data[i + 1] = (WIDTH / 2 - ((i / 2) % WIDTH)) / 180;
        }
      const depth = plates.floats(WIDTH * HEIGHT);
      depth.data.fill(2);
      const [ms] = await inTurn(5, [
        () => plates.kernel.carry(from.at, next.at, target.at, WIDTH, HEIGHT, was.at, is.at, depth.at, 0.4),
      ]);
      return { value: ms, note: 'a frame between two, carried along their motion, bicubic' };
    },
  },
  {
    name: 'picture/turned-ms',
    unit: 'ms',
    run: async () => {
      const { plates, plate } = full();
      const [picture, target] = [plate(1), plates.raw(WIDTH, HEIGHT)];
      const place = placeOf({ x: 0.1, y: 0, scale: 1.3, stretch: 1, rotation: 12 }, WIDTH, HEIGHT);
      const [ms] = await inTurn(9, [
        () => plates.within(() => warp(plates, target, new Pyramid(plates, picture), place, 1)),
      ]);
      return { value: ms, note: 'a picture turned by 12 degrees and made larger, bicubic' };
    },
  },
];
