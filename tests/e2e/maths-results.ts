import engine from '@dimforge/rapier3d-simd-compat';
import { buildTurned, type Mat4, type Mesh } from '@tender-orbit/core/geometry';
import * as m from '@tender-orbit/core/maths';
import { runBodies, type Body } from '@tender-orbit/core/simulate';

/** A million results, over every function of the core's maths: what two engines are compared by. */
export function millionResults(): Float64Array {
  const one = [m.sin, m.cos, m.tan, m.atan, m.asin, m.acos, m.exp, m.exp2, m.log, m.log2, m.log10, m.tanh];
  const results = new Float64Array(1_000_000);
  // A full-period generator of 32 bits: the same numbers wherever it runs.
  let state = 7;
  const next = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
  for (let i = 0; i < results.length; i++) {
    const f = i % 14;
    const x = next();
    if (f === 12) results[i] = m.pow(x * 4, next() * 6);
    else if (f === 13) results[i] = m.atan2(x - 0.5, next() - 0.5);
    else if (f === 4 || f === 5) results[i] = one[f](2 * x - 1);
    else if (f > 7) results[i] = one[f](x * 40);
    else results[i] = one[f]((x - 0.5) * (f < 4 ? 2e4 : 40));
  }
  return results;
}

/** Where bodies of several shapes are, frame by frame, while they fall on each other: boxes, balls and hulls. */
export async function bodyResults(): Promise<Float64Array> {
  await engine.init();
  const turned = (profile: Array<[number, number]>, segments: number): Mesh => buildTurned({ profile, segments });
  const ball = turned(
    Array.from({ length: 25 }, (_, i): [number, number] => {
      const a = (i / 24) * Math.PI;
      return [0.012 * m.sin(a), 0.012 - 0.012 * m.cos(a)];
    }),
    32,
  );
  const meshes = [
    ball,
    turned(
      [
        [0, 0],
        [0.014, 0.003],
        [0.006, 0.02],
        [0, 0.022],
      ],
      7,
    ),
    turned(
      [
        [0, 0],
        [0.02, 0],
        [0.02, 0.01],
        [0, 0.01],
      ],
      4,
    ),
  ];
  const bodies = Array.from({ length: 30 }, (_, n): Body => {
    const matrix: Mat4 = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, (n % 3) * 0.03, 0, (Math.floor(n / 3) % 3) * 0.03, 1];
    return { id: String(n), matrix, parts: [{ mesh: meshes[n % 3], density: 1000 }] };
  });
  const { frames } = runBodies(engine, bodies, [], {
    ...{ way: 'drop', height: 0.05, stagger: 0.02, spread: 0.004, tumble: 90, bounce: 0.3, friction: 0.5, seed: 4 },
    ...{ away: 0.5, direction: 0, flight: 0.5, frequency: 1, damping: 0.3, home: 0 },
    rate: { num: 24, den: 1 },
  });
  return Float64Array.from([...frames.values()].flat().flatMap(({ position, rotation }) => [...position, ...rotation]));
}
