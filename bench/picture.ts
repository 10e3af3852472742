import { applyLens, blend, gaussian, grader, newPlate, type Plate } from '@tender-orbit/core/composite';
import { newLayer, type LayerOf } from '@tender-orbit/core/document';
import { inTurn, medianMs, type Bench } from './bench.ts';

const [WIDTH, HEIGHT] = [1920, 1080];

function plate(alpha: number): Plate {
  const made = newPlate(WIDTH, HEIGHT);
  for (let i = 0; i < made.data.length; i++) made.data[i] = (i & 3) === 3 ? alpha : ((i * 7) % 101) * 0.01 * alpha;
  return made;
}

/** What the compositor takes for a picture of full HD, on one thread. */
export const pictureBenches: Bench[] = [
  {
    name: 'picture/blend-over-ms',
    unit: 'ms',
    run: async () => {
      const [below, over] = [plate(1), plate(0.5)];
      const [other, sum] = [new Float32Array(below.data.length), new Float32Array(below.data.length)];
      // The bound: both are read and one of them is written.
      const [ms, bound] = await inTurn(9, [
        () => blend(below, over, 'over', 0.5),
        () => {
          for (let i = 0; i < sum.length; i++) sum[i] = below.data[i] + 0.5 * other[i];
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
      const { data } = plate(1);
      const [twelve, three] = await inTurn(5, [
        () => gaussian(data, WIDTH, HEIGHT, 4, 12),
        () => gaussian(data, WIDTH, HEIGHT, 4, 3),
      ]);
      return { value: twelve, note: `sigma 12, four channels; sigma 3: ${three.toFixed(0)} ms` };
    },
  },
  {
    name: 'picture/grade-ms',
    unit: 'ms',
    run: async () => {
      const { data } = plate(1);
      const values = { contrast: 1.1, saturation: 1.1, powerRed: 1.05 };
      const grade = newLayer('grade', 'g', 'Grade', values as never) as LayerOf<'grade'>;
      const run = grader(grade);
      const ms = await medianMs(3, () => {
        for (let i = 0; i < data.length; i += 4) run(data, i);
      });
      return { value: ms, note: 'CDL with a power, contrast and saturation, in closed form' };
    },
  },
  {
    name: 'picture/finish-chain-ms',
    unit: 'ms',
    run: async () => {
      const picture = plate(1);
      const values = { bloom: 0.1, vignette: 0.3, grain: 0.2, fringing: 0.3, halation: 0.1 };
      const lens = newLayer('lens', 'l', 'Lens', values as never) as LayerOf<'lens'>;
      const ms = await medianMs(3, () => applyLens(picture, lens, 1));
      return { value: ms, note: 'fringing, bloom, halation, vignette and grain' };
    },
  },
];
