import { expect } from 'chai';
import { PARTICLE_FORMS, validateDocument } from '@tender-orbit/core/document';
import { boundsOf, buildGrain, type GrainForm } from '@tender-orbit/core/geometry';
import { compile, evaluate, evaluateMotion } from '@tender-orbit/core/scene';
import { type ParticleFrame } from '@tender-orbit/core/simulate';
import { PARTICLE_KITS, placeParticleKit, subjectOf } from '@tender-orbit/core/staging';
import { packScene } from '@tender-orbit/core/trace';
import { jar, meshes, products, context, setWith, shotOf, runIn, played } from './particle-box.ts';

describe('particles: in the picture', () => {
  const near = played({ burst: 30, source: 'box', width: 0.3, height: 0.2, depth: 0.2, velocity: [0.5, 0, 0] }, 5);
  const simulated = (_: string, at: number): ParticleFrame => ({
    ...near,
    data: near.data.map((v, i) => (i % 16 === 0 ? v + at * 0.01 : v)),
  });

  it('each has a place at both ends of the shutter and before; sizes follow what is set', () => {
    const set = setWith({ form: 'petal', size: 0.02, sizeSpread: 0, growing: 0, shrinking: 0, position: [0, 0.3, 0] });
    const program = compile(set, shotOf());
    const { swarms } = evaluateMotion(program, 6, { ...context, simulated });
    expect(swarms).length(1);
    const [{ count, matrices, close, before, looks }] = swarms;
    expect(count).equal(30);
    const m = matrices.subarray(0, 12);
    expect(Math.hypot(m[0], m[4], m[8])).closeTo(0.02, 1e-6);
    expect(close![3] - m[3]).closeTo(0.005, 1e-4);
    expect(m[3] - before![3]).closeTo(0.01, 1e-4);
    expect(looks).length(12);
    expect(evaluate(program, 6, context).swarms).deep.equal([]);
  });

  it('the tracer gets an instance for each, all one thing; a product flies as well', () => {
    const set = setWith({ form: 'speck' });
    const packed = packScene(evaluate(compile(set, shotOf()), 6, { ...context, simulated }), new Map());
    expect(packed.instances.filter((i) => packed.things[i.thing] === 'p')).length(30);
    const flying = setWith({ form: 'product', product: 'jar', size: 0.05, sizeSpread: 0, growing: 0, shrinking: 0 });
    const [swarm] = evaluate(compile(flying, shotOf()), 6, { ...context, simulated }).swarms;
    expect(swarm.looks[0].parts.length).equal(meshes.length);
    const { min, max } = boundsOf(meshes);
    const long = Math.max(...max.map((v, a) => v - min[a]));
    expect(Math.hypot(swarm.matrices[0], swarm.matrices[4], swarm.matrices[8])).closeTo(0.05 / long, 1e-4);
    // Another look of the product is another swarm for whoever keeps what it drew.
    const other = { ...jar, finishes: jar.finishes.map((finish) => ({ ...finish, roughness: 0.9 })) };
    const dressed = { ...context, simulated, products: new Map([['jar', other]]) };
    const [again] = evaluate(compile(flying, shotOf()), 6, dressed).swarms;
    expect(again.looks[0].key).not.equal(swarm.looks[0].key);
  });

  it('every form is about as long as it says, near and far, with normals of length 1', () => {
    for (const form of PARTICLE_FORMS) {
      if (form === 'product') continue;
      const counts = [true, false].map((full) => {
        const mesh = buildGrain(form as GrainForm, full);
        const { min, max } = boundsOf([mesh]);
        expect(Math.max(...max.map((v, a) => v - min[a])), form).within(full ? 0.7 : 0.55, 1.15);
        for (let i = 0; i < mesh.normals.length; i += 3)
          expect(Math.hypot(...mesh.normals.subarray(i, i + 3)), form).closeTo(1, 0.01);
        return mesh.indices.length;
      });
      expect(counts[0], form).above(counts[1]);
    }
  });

  it('every kit makes sound particles that suit the size of what it is made for', () => {
    for (const kit of PARTICLE_KITS) {
      const set = setWith();
      const made = placeParticleKit(kit, set, subjectOf(set, products, set.cameras[0]), 'kit');
      const whole = { ...set, effects: [made] };
      expect(validateDocument('set', JSON.parse(JSON.stringify(whole))), kit).deep.equal(whole);
      const run = runIn({ ...set, effects: [made] }, shotOf({ length: 30 }));
      while (run.frame < 29) run.next();
      expect(run.result().count, kit).within(1, 5000);
    }
  });
});
