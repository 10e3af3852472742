import { CAMERA, castCameraRay, Intersector, makeSampler, QUALITIES, traceFrame } from '@tender-orbit/core/trace';
import { medianMs, type Bench } from './bench.ts';
import { packedHero } from './demo-scene.ts';

const WIDTH = 480;
const HEIGHT = 270;

export const traceBenches: Bench[] = [
  {
    name: 'trace/ts-mrays',
    unit: 'Mrays/s',
    run: async () => {
      const scene = await packedHero();
      const hit = new Intersector(scene);
      const sampler = makeSampler(1);
      const ray = { ox: 0, oy: 0, oz: 0, dx: 0, dy: 0, dz: 0 };
      let hits = 0;
      const cast = (): void => {
        hits = 0;
        for (let y = 0; y < HEIGHT; y++) {
          for (let x = 0; x < WIDTH; x++) {
            sampler.start(y * WIDTH + x, 0);
            sampler.next();
            castCameraRay(
              scene.camera,
              ((x + 0.5) / WIDTH) * 2 - 1,
              1 - ((y + 0.5) / HEIGHT) * 2,
              sampler.u,
              sampler.v,
              ray,
            );
            if (hit.nearest(ray.ox, ray.oy, ray.oz, ray.dx, ray.dy, ray.dz, 1e-5, Infinity)) hits++;
          }
        }
      };
      const ms = await medianMs(5, cast);
      const triangles = scene.triangleMaterial.length;
      return {
        value: (WIDTH * HEIGHT) / ms / 1000,
        note: `camera rays, one thread, ${triangles} triangles, ${Math.round((100 * hits) / WIDTH / HEIGHT)}% hit, f/${scene.camera[CAMERA.aperture] > 0 ? 'open' : '0'}`,
      };
    },
  },
  {
    name: 'trace/ts-kpaths',
    unit: 'kpaths/s',
    run: async () => {
      const scene = await packedHero();
      const { limits } = QUALITIES.final;
      const [width, height, samples] = [96, 54, 4];
      const ms = await medianMs(3, () =>
        traceFrame(scene, { width, height, samples, limits: { ...limits, exposureScale: 0.001 }, frame: 0 }),
      );
      return {
        value: (width * height * samples) / ms,
        note: `complete paths of a final take, one thread, ${limits.maxBounces} bounces`,
      };
    },
  },
];
