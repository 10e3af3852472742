import { expect } from 'chai';
import { identity, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import type { Solid } from '@tender-orbit/core/simulate';
import { newSmoke, SMOKE_PROPERTIES, type SmokeEffect } from '@tender-orbit/core/document';
import type { NumberProperty } from '@tender-orbit/core/properties';
import { calm, cube, finite, OPEN, SmokeBox } from './smoke-box.ts';
import { ball, block, moved, randomNumbers } from './studio.ts';

const solid = (mesh: Mesh, at: Vec3 = [0, 0, 0], back = identity()): Solid => ({
  ...{ thing: 'thing', mesh, matrix: moved(...at), back, part: 0, number: 1, moves: false },
  key: `${at.join()} ${mesh.positions.length}`,
});
const speedOf = ({ u, v, w }: { u: Float32Array; v: Float32Array; w: Float32Array }): number =>
  Math.max(...[u, v, w].map((values) => values.reduce((most, x) => Math.max(most, Math.abs(x)), 0)));

/** A source in the middle of the floor, as the kernel takes it. */
function source(box: SmokeBox, { rate = 10, heat = 100, blow = [0, 0, 0] as Vec3 } = {}): Float32Array {
  const words: number[] = [];
  const index = new Int32Array(1);
  const bits = new Float32Array(index.buffer);
  const [nx, , nz] = box.domain.size;
  for (let k = nz / 2 - 2; k < nz / 2 + 2; k++)
    for (let j = 1; j < 4; j++)
      for (let i = nx / 2 - 2; i < nx / 2 + 2; i++) {
        index[0] = box.at(i, j, k);
        words.push(bits[0], rate, heat, 1, ...blow.map((v) => v / box.domain.cell), 0.5, 1, 1, 1, 0);
      }
  return Float32Array.from(words);
}

describe('smoke: what the solver keeps to', () => {
  it('still air stays still', () => {
    const box = new SmokeBox(calm({ walls: OPEN }), cube(16));
    const state = box.step(10);
    expect(speedOf(state)).equal(0);
    expect(box.total(state.density)).equal(0);
  });

  it('after a step hardly anything flows into a cell that does not flow out of it', () => {
    for (const walls of [OPEN, calm().walls, { ...OPEN, floor: true }]) {
      const box = new SmokeBox(calm({ walls, lift: 3, swirl: 5, turbulence: 2 }), cube(32));
      const sources = source(box);
      for (let f = 0; f < 12; f++) {
        box.step(1, sources);
        expect(box.solver.left.divergence, `frame ${f}`).below(2e-3);
      }
    }
  });

  it('asked for a fine level it goes to a ten-thousandth', () => {
    const box = new SmokeBox(calm({ walls: { ...OPEN, floor: true }, lift: 3 }), cube(32));
    box.step(6, source(box), { tolerance: 1e-4, cycles: 24 });
    expect(box.solver.left.divergence).below(1e-4);
    expect(box.solver.left.cycles).below(12);
  });

  it('what is in a closed box stays in it: 200 steps lose less than a thousandth', () => {
    const box = new SmokeBox(calm({ lift: 4, swirl: 6, turbulence: 3 }), cube(24));
    box.fill(
      ([x, y], axis) =>
        axis === 0
          ? Math.sin(Math.PI * x) * Math.cos(Math.PI * y)
          : axis === 1
            ? -Math.cos(Math.PI * x) * Math.sin(Math.PI * y)
            : 0,
      ([x, y, z]) => (Math.hypot(x - 0.5, y - 0.3, z - 0.5) < 0.22 ? 1 : 0),
    );
    const before = box.total(box.solver.state().density);
    const after = box.total(box.step(200).density);
    expect(after / before).closeTo(1, 1e-3);
  });

  it('dissipation takes the share of a second that it says', () => {
    const box = new SmokeBox(calm({ dissipation: 0.4 }), cube(16));
    box.fill(
      () => 0,
      () => 0.5,
    );
    const before = box.total(box.solver.state().density);
    expect(box.total(box.step(24).density) / before).closeTo(0.6, 1e-4);
  });

  it('density stays between what it was: nothing grows by being moved', () => {
    const box = new SmokeBox(calm(), cube(24));
    box.fill(
      ([x, y], axis) => (axis === 0 ? y - 0.5 : axis === 1 ? 0.5 - x : 0) * 2,
      ([x, y]) => (x > 0.3 && x < 0.5 && y > 0.3 && y < 0.7 ? 1 : 0),
    );
    const { density } = box.step(20);
    expect(Math.max(...density)).below(1.1);
    expect(Math.min(...density)).equal(0);
  });
});

/** Velocities of Taylor and Green's vortex in a closed box, whose walls it does not cross. */
const vortex = ([x, y]: Vec3, axis: number): number => {
  if (axis === 2) return 0;
  return axis === 0 ? Math.sin(Math.PI * x) * Math.cos(Math.PI * y) : -Math.cos(Math.PI * x) * Math.sin(Math.PI * y);
};
const energy = ({ u, v, w }: { u: Float32Array; v: Float32Array; w: Float32Array }, cell: number): number =>
  [u, v, w].reduce((sum, values) => sum + values.reduce((s, x) => s + x * x, 0), 0) * Math.pow(cell, 5);

describe('smoke: it converges', () => {
  it('a vortex that nothing brakes keeps its energy, the better the finer the cells', () => {
    // The same number of cells a step: space and time are refined together.
    const lost = [16, 32, 64].map((cells) => {
      const rate = (24 * cells) / 16;
      const box = new SmokeBox(calm(), cube(cells), [], 1 / rate);
      // Only air that carries smoke is moved with all care.
      box.fill(vortex, () => 0.01);
      const before = energy(box.solver.state(), box.domain.cell);
      return Math.abs(1 - energy(box.step(rate / 2), box.domain.cell) / before);
    });

    expect(lost[0]).below(0.1);
    expect(lost[1]).below(0.62 * lost[0]);
    expect(lost[2]).below(0.62 * lost[1]);
  });

  it('a warm bubble rises as far on finer cells as on coarse ones, and ever closer', () => {
    const heights = [16, 32, 48].map((cells) => {
      const box = new SmokeBox(calm({ walls: OPEN, lift: 1 }), cube(cells));
      const state = box.solver.state();
      let sum = 0;
      for (let k = 0; k < cells; k++)
        for (let j = 0; j < cells; j++)
          for (let i = 0; i < cells; i++) {
            const [x, y, z] = box.middle(i, j, k);
            const inside = Math.max(0, 1 - Math.max(0, Math.hypot(x - 0.5, y - 0.3, z - 0.5) - 0.1) / 0.1);
            state.density[box.at(i, j, k)] = inside;
            state.heat[box.at(i, j, k)] = 100 * inside;
          }
      box.solver.restore(state);
      const after = box.step(16);
      let height = 0;
      for (let k = 0; k < cells; k++)
        for (let j = 0; j < cells; j++)
          for (let i = 0; i < cells; i++) {
            const d = after.density[box.at(i, j, k)];
            sum += d;
            height += d * box.middle(i, j, k)[1];
          }
      return height / sum;
    });
    expect(heights[0]).above(0.34);
    expect(Math.abs(heights[2] - heights[1])).below(Math.abs(heights[1] - heights[0]));
    expect(Math.abs(heights[2] - heights[1])).below(0.01);
  });
});

describe('smoke: solids', () => {
  it('smoke flows round an obstacle and never into it', () => {
    const box = new SmokeBox(calm({ walls: OPEN, lift: 3, swirl: 4 }), cube(32), [solid(ball(0.15), [0, 0.5, 0])]);
    const { density } = box.step(24, source(box, { blow: [0, 2, 0] }));
    let above = 0;
    for (let k = 0; k < 32; k++)
      for (let j = 0; j < 32; j++)
        for (let i = 0; i < 32; i++) {
          const [x, y, z] = box.middle(i, j, k);
          const d = density[box.at(i, j, k)];
          if (Math.hypot(x - 0.5, y - 0.5, z - 0.5) < 0.14) expect(d).equal(0);
          if (y > 0.5) above += d;
        }
    expect(above).above(1);
  });

  it('a plate much thinner than a cell lets nothing through', () => {
    const plate = block([3, 0.004, 3]);
    const box = new SmokeBox(calm({ walls: { ...OPEN, floor: true }, lift: 6 }), cube(32), [solid(plate, [0, 0.5, 0])]);
    const { density } = box.step(24, source(box, { blow: [0, 3, 0] }));
    let below = 0;
    for (let k = 0; k < 32; k++)
      for (let j = 0; j < 32; j++)
        for (let i = 0; i < 32; i++) {
          const d = density[box.at(i, j, k)];
          if (j > 18) expect(d).equal(0);
          else below += d;
        }
    expect(below).above(10);
  });

  it('through a hole in such a plate pressure is still solved', () => {
    const parts = [
      solid(block([1, 0.01, 3]), [-0.6, 0.5, 0]),
      solid(block([1, 0.01, 3]), [0.6, 0.5, 0]),
      solid(block([0.3, 0.01, 1]), [0, 0.5, -0.6]),
      solid(block([0.3, 0.01, 1]), [0, 0.5, 0.6]),
    ];
    const box = new SmokeBox(calm({ walls: { ...calm().walls, top: false }, lift: 4 }), cube(32), parts);
    for (let f = 0; f < 12; f++) {
      box.step(1, source(box, { blow: [0, 2, 0] }));
      expect(box.solver.left.divergence, `frame ${f}`).below(2e-3);
    }
  });

  it('a solid that moves pushes the gas along', () => {
    // Half a metre a second to the right: a frame ago it was so much to the left.
    const box = new SmokeBox(calm({ walls: OPEN }), cube(32), [
      solid(block([0.2, 0.2, 0.2]), [0, 0.4, 0], moved(-0.5 / 24, 0, 0)),
    ]);
    const { u } = box.step(1);
    const ahead = u[box.at(21, 16, 15)] * box.domain.cell;
    expect(ahead).within(0.1, 0.6);
  });
});

describe('smoke: the same every time', () => {
  it('two runs give the same bytes', () => {
    const run = (): Float32Array => {
      const box = new SmokeBox(calm({ walls: OPEN, lift: 4, turbulence: 2, swirl: 5 }), cube(24));
      return box.step(8, source(box)).density;
    };
    expect(run()).deep.equal(run());
  });

  it('gone on from a kept state it is as if it had never stopped', () => {
    const effect = calm({ walls: OPEN, lift: 4, turbulence: 2, swirl: 5 });
    const whole = new SmokeBox(effect, cube(16));
    const sources = source(whole);
    for (let f = 0; f < 4; f++) whole.solver.advance(effect, sources, 1 / 24, f);
    const kept = whole.solver.state();
    for (let f = 4; f < 8; f++) whole.solver.advance(effect, sources, 1 / 24, f);
    const second = new SmokeBox(effect, cube(16));
    second.solver.restore(kept);
    for (let f = 4; f < 8; f++) second.solver.advance(effect, sources, 1 / 24, f);
    expect(second.solver.state().density).deep.equal(whole.solver.state().density);
    expect(second.solver.state().u).deep.equal(whole.solver.state().u);
  });
});

describe('smoke: it is stable', () => {
  const random = randomNumbers(7);
  /** A number of a property anywhere in its range, at its ends as often as not. */
  const anywhere = ({ min, max }: NumberProperty): number => {
    const at = random();
    if (at < 0.25) return min;
    return at < 0.5 ? max : min + (max - min) * random();
  };
  for (let trial = 0; trial < 2; trial++)
    it(`settings anywhere in their ranges give finite numbers for 500 frames (${trial + 1})`, () => {
      const effect: SmokeEffect = newSmoke('smoke', 'Smoke', { walls: random() < 0.5 ? OPEN : calm().walls });
      for (const name of ['weight', 'lift', 'swirl', 'turbulence', 'windGrip', 'dissipation', 'cooling'] as const)
        effect[name] = anywhere(SMOKE_PROPERTIES[name]);
      effect.wind = [0, 1, 2].map((axis) => anywhere(SMOKE_PROPERTIES[`wind.${axis}` as 'wind.0'])) as Vec3;
      const box = new SmokeBox(effect, cube(8, 0.2));
      const sources = source(box, { rate: 200, heat: 1500, blow: [20, -20, 20] });
      for (let f = 0; f < 500; f++) box.solver.advance(effect, sources, 1 / 24, f);
      expect(finite(box.solver.state())).equal(true);
    });
});
