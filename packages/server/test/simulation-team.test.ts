import { expect } from 'chai';
import { newEmitter, newSet, newShot, newSmoke, type SmokeEffect } from '@tender-orbit/core/document';
import { compile, type Slot } from '@tender-orbit/core/scene';
import { SmokeRun } from '@tender-orbit/core/simulate';
import { kernelMaker } from '@tender-orbit/server';

describe('server: threads that simulate together', () => {
  async function smokeBy(threads: number): Promise<Uint8Array> {
    const set = newSet('Studio');
    const cells = { coarse: 0.02, normal: 0.02, fine: 0.02 };
    const size = { width: 0.96, height: 0.96, depth: 0.96 };
    const source = newEmitter('s', 'Source', { position: [-0.1, 0.06, 0], velocity: [3, 0, 0], colour: '#E9B44C' });
    set.effects = [newSmoke('smoke', 'Smoke', { ...size, cells, emitters: [source], turbulence: 2 })];
    const program = compile(set, newShot('Shot', 'set', 'hero', 24));
    const context = { products: new Map(), meshes: () => undefined, aspect: 16 / 9 };
    const slot = program.effects[0] as Slot<SmokeEffect>;
    const run = new SmokeRun(program, slot, context, 'coarse', { num: 24, den: 1 });
    run.begin({ kernel: await kernelMaker(threads), state: () => undefined });
    const sizes = new Set<number>();
    while (run.frame < 14) {
      run.next();
      sizes.add(run.state().length);
    }
    // Its window grew, and with it came other memory.
    expect(sizes.size).above(1);
    return run.state();
  }

  it('two give the bytes that one gives, also as the window grows', async () => {
    const [one, two] = [await smokeBy(1), await smokeBy(2)];
    expect(Buffer.compare(one, two)).equal(0);
    expect(one.some((byte) => byte !== 0)).equal(true);
  });
});
