import { expect } from 'chai';
import type { Passes } from '@tender-orbit/core/trace';
import { block, FREE, LAMBERT, mean, moved, pack, trace, type Studio } from './studio.ts';

/** A pane 2 cm thick at z 0, seen from a metre and a half in front of it. */
const PANE = { mesh: block([4, 4, 0.02]), matrix: moved(0, -2, 0) };
const WALL = { mesh: block([8, 8, 0.02]), matrix: moved(0, -4, -1.01), finish: LAMBERT };
const glass = {
  transmission: 1,
  thickness: 0.02,
  roughness: 0,
  ior: 1.5,
  baseColor: [1, 1, 1] as [number, number, number],
};

function seen(
  things: Studio['things'],
  more: Partial<Studio> = {},
): NonNullable<Passes['detail']> & { depth: number[] } {
  const studio = { eye: [0, 0, 1.5] as const, aim: [0, 0, 0] as const, fov: 2, room: 1, ...more, things };
  const passes = structuredClone(trace(pack(studio as Studio), 512, 8, FREE, { detail: true }));
  return { ...passes.detail!, depth: [...passes.depth] };
}
const channel = (plane: Float32Array, c: number): number => mean(plane.filter((_, i) => i % 3 === c));

describe('passes: what stands behind glass', () => {
  it('a pane lets through what its two faces leave; the wall behind is the first opaque surface', () => {
    const { transmittance, opaqueDepth, depth } = seen([{ ...PANE, finish: glass }, WALL]);
    // Each face reflects 4 % straight on.
    expect(mean(transmittance)).closeTo(0.96 * 0.96, 0.01);
    expect(mean(opaqueDepth)).closeTo(2.5, 0.01);
    expect(mean(depth)).closeTo(1.49, 0.01);
  });

  it('coloured glass colours what is seen through it', () => {
    const tinted = {
      ...glass,
      attenuationColor: [0.8, 0.4, 0.1] as [number, number, number],
      attenuationDistance: 0.02,
    };
    const { transmittance } = seen([{ ...PANE, finish: tinted }, WALL]);
    [0.8, 0.4, 0.1].forEach((through, c) => expect(channel(transmittance, c)).closeTo(through * 0.9216, 0.01));
  });

  it('with nothing behind it there is no opaque depth, and as much comes through', () => {
    const { transmittance, opaqueDepth } = seen([{ ...PANE, finish: glass }]);
    expect(mean(transmittance)).closeTo(0.9216, 0.01);
    expect(Math.max(...opaqueDepth)).equal(0);
  });

  it('without glass the first surface is the opaque one, and open sky lets all through', () => {
    const wall = seen([WALL]);
    expect(Math.min(...wall.transmittance)).equal(1);
    wall.opaqueDepth.forEach((d, i) => expect(d).closeTo(wall.depth[i], 1e-5));
    const sky = seen([{ ...PANE, matrix: moved(50, 0, 0), finish: LAMBERT }]);
    expect(Math.min(...sky.transmittance)).equal(1);
    expect(Math.max(...sky.opaqueDepth)).equal(0);
  });

  it('a mirror is opaque: what it shows does not count', () => {
    const { transmittance, opaqueDepth } = seen([{ ...PANE, finish: { metallic: 1, roughness: 0 } }, WALL]);
    expect(Math.min(...transmittance)).equal(1);
    expect(mean(opaqueDepth)).closeTo(1.49, 0.01);
  });
});
