import { packMesh, QUALITIES } from '@tender-orbit/core/trace';
import { inTurn, medianMs, type Bench } from './bench.ts';
import { manyLights, manyThings, packedHero, referenceHero, roundMesh } from './demo-scene.ts';
import { inTwoThreads, kernelWith } from './kernel.ts';
import { Intersector } from './reference/index.ts';

const WIDTH = 480;
const HEIGHT = 270;

type Hero = Awaited<ReturnType<typeof referenceHero>>;

/** Evenly spread numbers in 0..1 (mulberry32): rays are the same at every run. */
function spread(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let x = Math.imul(state ^ (state >>> 15), state | 1);
    x ^= x + Math.imul(x ^ (x >>> 7), x | 61);
    return ((x ^ (x >>> 14)) >>> 0) / 4294967296;
  };
}

/** Pinhole rays of the demo's hero shot, and as many rays that leave what those hit in random directions. */
function raysOf({ triangles, camera: lens }: Hero): { camera: Float32Array; bounce: Float32Array } {
  const hit = new Intersector(triangles);
  const random = spread(1);
  const m = lens.matrix;
  const high = Math.tan(lens.verticalFov / 2);
  const camera = new Float32Array(WIDTH * HEIGHT * 8);
  const bounce = new Float32Array(WIDTH * HEIGHT * 8);
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const x = (2 * ((i % WIDTH) + 0.5)) / WIDTH - 1;
    const y = 1 - (2 * (Math.floor(i / WIDTH) + 0.5)) / HEIGHT;
    const [sx, sy] = [x * high * lens.aspect, y * high];
    const along = [0, 1, 2].map((a) => m[a] * sx + m[4 + a] * sy - m[8 + a]);
    const length = Math.hypot(...along);
    const [dx, dy, dz] = along.map((v) => v / length);
    const [ox, oy, oz] = [m[12], m[13], m[14]];
    camera.set([ox, oy, oz, dx, dy, dz, 1e-5, Infinity], i * 8);
    hit.nearest(ox, oy, oz, dx, dy, dz, 1e-5, Infinity);
    const t = hit.triangle >= 0 ? hit.t * 0.9999 : 1;
    const z = 1 - 2 * random();
    const r = Math.sqrt(1 - z * z);
    const a = 2 * Math.PI * random();
    const origin = [ox + dx * t, oy + dy * t, oz + dz * t];
    bounce.set([...origin, r * Math.cos(a), z, r * Math.sin(a), 1e-5, Infinity], i * 8);
  }
  return { camera, bounce };
}

function castAll(hit: Intersector, rays: Float32Array): void {
  for (let i = 0; i < rays.length; i += 8) {
    hit.nearest(rays[i], rays[i + 1], rays[i + 2], rays[i + 3], rays[i + 4], rays[i + 5], rays[i + 6], rays[i + 7]);
  }
}

const PATHS = { width: 96, height: 54, samples: 4, frame: 0 };
const pathOptions = { ...PATHS, limits: { ...QUALITIES.final.limits, exposureScale: 0.001 } };
const pathCount = PATHS.width * PATHS.height * PATHS.samples;

export const traceBenches: Bench[] = [
  {
    name: 'trace/ts-mrays',
    unit: 'Mrays/s',
    run: async () => {
      const scene = await referenceHero();
      const hit = new Intersector(scene.triangles);
      const { camera } = raysOf(scene);
      const ms = await medianMs(5, () => castAll(hit, camera));
      return {
        value: (WIDTH * HEIGHT) / ms / 1000,
        note: `camera rays, plain TypeScript, one thread, ${scene.triangles.triangles.length / 9} triangles`,
      };
    },
  },
  {
    name: 'trace/kernel-vs-ts-traversal',
    unit: 'times',
    run: async () => {
      const reference = await referenceHero();
      const hit = new Intersector(reference.triangles);
      const kernel = kernelWith(await packedHero());
      const rays = raysOf(reference);
      const ratios: string[] = [];
      let [ts, wasm] = [0, 0];
      for (const kind of ['camera', 'bounce'] as const) {
        const cast = kernel.placeRays(rays[kind]);
        const [slow, fast] = await inTurn(21, [() => castAll(hit, rays[kind]), cast]);
        ratios.push(`${kind} ${(slow / fast).toFixed(2)}`);
        ts += slow;
        wasm += fast;
      }
      const mrays = (2 * WIDTH * HEIGHT) / wasm / 1000;
      return {
        value: ts / wasm,
        note: `same rays, one thread: ${ratios.join(', ')}; kernel ${mrays.toFixed(2)} Mrays/s`,
      };
    },
  },
  {
    name: 'trace/kernel-kpaths',
    unit: 'kpaths/s',
    run: async () => {
      const kernel = kernelWith(await packedHero());
      const ms = await medianMs(21, () => kernel.traceFrame(pathOptions));
      return { value: pathCount / ms, note: 'complete paths of a final take, one thread' };
    },
  },
  {
    name: 'trace/two-workers',
    unit: 'times',
    run: async () => {
      const { shared, apart } = await inTwoThreads(await packedHero(), { ...pathOptions, width: 320, height: 180 });
      return {
        value: shared,
        note: `tiles from one counter on shared memory; two tracers with a memory each reach ${apart.toFixed(2)} here`,
      };
    },
  },
  {
    name: 'trace/toplevel-500-ms',
    unit: 'ms',
    run: async () => {
      const kernel = kernelWith(await manyThings(500));
      return { value: await medianMs(21, () => kernel.buildTop()), note: '500 instances, top level alone' };
    },
  },
  {
    name: 'trace/build-150k-ms',
    unit: 'ms',
    run: async () => {
      const scene = await packedHero();
      const build = async (count: number): Promise<{ ms: number; bytes: number }> => {
        const mesh = packMesh([roundMesh(count)]);
        const only = {
          ...scene,
          meshes: [mesh],
          instances: scene.instances.filter((i) => i.kind === 'mesh').slice(0, 1),
        };
        const kernel = kernelWith(scene);
        kernel.load(only);
        return { ms: kernel.timing.meshes, bytes: kernel.bytes };
      };
      await build(150_000);
      const { ms } = await build(150_000);
      const large = await build(1_000_000);
      return {
        value: ms,
        note: `tree and packets of 150 000 triangles; 1 000 000 take ${(large.ms / 1000).toFixed(1)} s and ${Math.round(large.bytes / 2 ** 20)} MB in all`,
      };
    },
  },
  {
    name: 'trace/fifty-lights-vs-five',
    unit: 'times',
    run: async () => {
      const [few, many] = [kernelWith(await manyLights(5)), kernelWith(await manyLights(50))];
      const [first, second] = await inTurn(7, [() => few.traceFrame(pathOptions), () => many.traceFrame(pathOptions)]);
      return { value: second / first, note: 'time of the same picture of the demo, same power shared out' };
    },
  },
];
