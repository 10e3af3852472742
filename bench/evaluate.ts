import { compile, evaluate } from '@tender-orbit/core/scene';
import { medianMs, type Bench } from './bench.ts';
import { demoScene } from './demo-scene.ts';

export const evaluateBenches: Bench[] = [
  {
    name: 'evaluate/ms-per-frame',
    unit: 'ms',
    run: async () => {
      const { set, shot, context } = await demoScene();
      const ms = await medianMs(9, () => {
        for (let frame = 0; frame < shot.length; frame++) evaluate(compile(set, shot), frame, context);
      });
      return {
        value: ms / shot.length,
        note: `demo hero shot, ${set.products.length} products, ${set.lights.length} lights, ${shot.tracks.length} tracks`,
      };
    },
  },
];
