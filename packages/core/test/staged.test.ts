import { expect } from 'chai';
import validator from 'gltf-validator';
import {
  LIGHT_SHAPES,
  newSet,
  newShot,
  newVariant,
  plainLook,
  plainItem,
  type ProductDocument,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { pictureKey } from '@tender-orbit/core/finish';
import { compile, evaluate } from '@tender-orbit/core/scene';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { writeStaged } from '@tender-orbit/core/interchange';
import { RED_PNG, testIo } from './model-files.ts';

describe('interchange: a staged set', () => {
  const jar = builtDocument('Jar', TURNED_PRESETS.jar);
  const art = { asset: 'd'.repeat(64), pattern: null, look: null, emboss: false };
  const product: ProductDocument = {
    ...jar,
    sheets: [{ id: 'art', name: 'Art', picture: art, width: 1, height: 1 }],
    variants: [{ ...newVariant('first', 'First'), fills: [{ slot: 'slot-label', sheet: 'art', look: plainLook() }] }],
    finishes: jar.finishes.map((f) => ({
      ...f,
      iridescence: 0.4,
      anisotropy: 0.5,
      emissive: [0.2, 0, 0],
      emissiveStrength: 3,
    })),
  };
  const base = newSet('Studio');
  const set: SetDocument = {
    ...base,
    products: [
      {
        ...plainItem(),
        ...{ id: 'jar', name: 'Jar', product: 'p', position: [0, 0, 0] },
      },
    ],
    lights: LIGHT_SHAPES.map((shape, i) => ({ ...base.lights[0], id: `l${i}`, name: shape, shape })),
  };
  const shot: ShotDocument = {
    ...newShot('Turn', 'set', 'hero', 24),
    tracks: [
      {
        ...{ thing: 'jar', path: 'turn' },
        keys: [
          { frame: 0, value: 0, ease: 'linear' },
          { frame: 23, value: 350, ease: 'linear' },
        ],
      },
    ],
  };
  const meshes = builtMeshes(modelKey(product))!;
  const tableaux = Array.from({ length: 24 }, (_, frame) =>
    evaluate(compile(set, shot), frame, { products: new Map([['p', product]]), meshes: () => meshes, aspect: 1.5 }),
  );
  const write = () =>
    writeStaged({
      ...{ name: 'Turn', tableaux, rate: { num: 24, den: 1 } },
      models: new Map([[modelKey(product), { meshes, images: [] }]]),
      pictures: new Map([[pictureKey(art), { name: 'Art', mimeType: 'image/png', bytes: RED_PNG }]]),
    });

  it('passes the official validator without an error, with every kind of light and its moves', async () => {
    const bytes = await write();
    const report = await validator.validateBytes(bytes);
    expect(report.issues.messages.filter((m: { severity: number }) => m.severity === 0)).deep.equal([]);
    expect(report.info).include({ animationCount: 1 });
  });

  it('moves what moves, a key a frame, the short way round', async () => {
    const document = await (await testIo()).readBinary(await write());
    const [animation] = document.getRoot().listAnimations();
    const [channel] = animation.listChannels();
    expect(animation.listChannels().length).equal(1);
    expect(channel.getTargetNode()!.getName()).equal('Jar');
    const times = channel.getSampler()!.getInput()!.getArray()!;
    expect(times.length).equal(24);
    expect(times[23]).closeTo(23 / 24, 1e-6);
    const turns = channel.getSampler()!.getOutput()!.getArray()!;
    for (let i = 4; i < turns.length; i += 4) {
      const dot = [0, 1, 2, 3].reduce((d, k) => d + turns[i + k] * turns[i + k - 4], 0);
      expect(dot).closeTo(Math.cos((350 / 23 / 2 / 180) * Math.PI), 1e-4);
    }
  });

  it('carries camera, art and finishes', async () => {
    const document = await (await testIo()).readBinary(await write());
    const root = document.getRoot();
    expect(root.listCameras().length).equal(1);
    expect(root.listTextures().map((t) => t.getName())).deep.equal(['Art']);
    expect(root.listMaterials().some((m) => m.getExtension('KHR_materials_iridescence'))).equal(true);
    expect(root.listNodes().filter((n) => n.getExtension('KHR_lights_punctual')).length).equal(LIGHT_SHAPES.length);
  });
});
