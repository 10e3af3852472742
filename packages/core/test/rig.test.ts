import type { Accessor, Document, Node } from '@gltf-transform/core';
import { expect } from 'chai';
import validator from 'gltf-validator';
import { applyRecipe, newRecipe, plainItem, runCommand, type ProductDocument } from '@tender-orbit/core/document';
import { multiply, transformMesh, type Mesh } from '@tender-orbit/core/geometry';
import { importModel, productOf, readModel, writeStaged, type ImportedModel } from '@tender-orbit/core/interchange';
import { ownBody, poseRig, prepareMeshes } from '@tender-orbit/core/product';
import { compile, evaluate, evaluateMotion } from '@tender-orbit/core/scene';
import { decoders, quadDocument, testIo } from './model-files.ts';
import { movesSet, movesShot, thingAt } from './moves-scene.ts';

function floats(document: Document, type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4', values: number[]): Accessor {
  const buffer = document.getRoot().listBuffers()[0];
  return document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer);
}

type Path = 'translation' | 'rotation' | 'scale' | 'weights';

function move(document: Document, name: string, node: Node, path: Path, values: number[], cubic = false): void {
  const animation =
    document
      .getRoot()
      .listAnimations()
      .find((a) => a.getName() === name) ?? document.createAnimation(name);
  const output = floats(document, path === 'rotation' ? 'VEC4' : path === 'weights' ? 'SCALAR' : 'VEC3', values);
  const sampler = document
    .createAnimationSampler()
    .setInput(floats(document, 'SCALAR', [0, 2]))
    .setOutput(output)
    .setInterpolation(cubic ? 'CUBICSPLINE' : 'LINEAR');
  animation
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
}

/** A tin: a body that stays, a lid on a hinge that is lifted, a strip on two joints, a swelling drop. */
function tin(): Document {
  const document = quadDocument();
  const [scene] = document.getRoot().listScenes();
  const [mesh] = document.getRoot().listMeshes();
  const hinge = document.createNode('Hinge').setTranslation([0, 1, -0.5]).setScale([2, 2, 2]);
  const lid = document.createNode('Lid').setMesh(mesh).setTranslation([0, 0, 0.5]);
  scene.addChild(hinge.addChild(lid));

  const skinned = mesh.listPrimitives()[0].clone();
  const joints = [document.createNode('Root'), document.createNode('Tip').setTranslation([0, 2, 0])];
  scene.addChild(joints[0].addChild(joints[1]));
  const which = document.createAccessor().setType('VEC4').setBuffer(document.getRoot().listBuffers()[0]);
  which.setArray(Uint8Array.from([0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0]));
  skinned.setAttribute('JOINTS_0', which);
  const shares = [1, 0, 0, 0, 1, 0, 0, 0, 0.25, 0.75, 0, 0, 0, 1, 0, 0];
  skinned.setAttribute('WEIGHTS_0', floats(document, 'VEC4', shares));
  const bind = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -2, 0, 1];
  const skin = document.createSkin().setInverseBindMatrices(floats(document, 'MAT4', bind));
  joints.forEach((joint) => skin.addJoint(joint));
  scene.addChild(
    document.createNode('Strip').setMesh(document.createMesh('Strip').addPrimitive(skinned)).setSkin(skin),
  );

  const swelling = mesh.listPrimitives()[0].clone();
  const target = floats(document, 'VEC3', [0.5, 0, 0, 0, 0.5, 0, 0, 0, 0.5, 0.1, 0.2, 0.3]);
  swelling.addTarget(document.createPrimitiveTarget().setAttribute('POSITION', target));
  const drop = document.createNode('Drop').setMesh(document.createMesh('Drop').addPrimitive(swelling));
  scene.addChild(drop.setTranslation([3, 0, 0]).setRotation([0, 0.6, 0, 0.8]));

  move(document, 'Open', hinge, 'rotation', [0, 0, 0, 1, -0.6, 0, 0, 0.8]);
  move(document, 'Open', lid, 'translation', [0, 0, 0, 0, 0, 0.5, 0, 1, 0, 0, 0, 0, 0.3, 1, 0.5, 0, 0, 0], true);
  move(document, 'Open', drop, 'weights', [0, 1]);
  move(document, 'Bend', joints[1], 'rotation', [0, 0, 0, 1, 0.28, 0, 0, 0.96]);
  move(document, 'Bend', joints[0], 'scale', [1, 1, 1, 1, 1.5, 1]);
  return document;
}

async function bring(pose?: { animation: number; seconds: number }): Promise<ImportedModel> {
  const bytes = await (await testIo()).writeBinary(tin());
  return importModel('tin.glb', bytes, {}, await decoders(), { pose });
}

const meshesOf = ({ model }: ImportedModel): Mesh[] => model.parts.map(({ mesh }) => mesh);
const stored = async (imported: ImportedModel): Promise<Mesh[]> =>
  (await readModel(imported.glb)).parts.map(({ mesh }) => mesh);

/** The meshes of a model as its animations have it, places put in. */
function posed(
  meshes: readonly Mesh[],
  ...clips: Array<[animation: number, seconds: number, weight?: number]>
): Mesh[] {
  const made = poseRig(
    meshes,
    clips.map(([animation, seconds, weight = 1]) => ({ animation, seconds, weight })),
  );
  return made.meshes.map((mesh, i) => {
    const place = made.places.get(i);
    return place ? transformMesh(mesh, place) : mesh;
  });
}

function expectAlike(a: readonly Mesh[], b: readonly Mesh[], within = 1e-5): void {
  expect(a).length(b.length);
  a.forEach((mesh, i) => {
    for (const name of ['positions', 'normals'] as const)
      mesh[name].forEach((v, k) => expect(v, `${name} of ${i}`).closeTo(b[i][name][k], within));
  });
}

describe("a model's own animations", () => {
  it('at any time are what the file read at that pose is, after being stored and read again', async () => {
    const meshes = await stored(await bring());
    for (const [animation, seconds] of [
      [0, 0],
      [0, 0.7],
      [0, 2],
      [0, 9],
      [1, 1.3],
      [1, 2],
    ] as const)
      expectAlike(posed(meshes, [animation, seconds]), meshesOf(await bring({ animation, seconds })));
  });

  it('begin from whatever pose the model is brought at', async () => {
    const meshes = await stored(await bring({ animation: 0, seconds: 1.1 }));
    expectAlike(posed(meshes, [0, 0.4]), meshesOf(await bring({ animation: 0, seconds: 0.4 })));
  });

  it('leave what they do not move as the very same mesh, and move stiff parts by places alone', async () => {
    const meshes = await stored(await bring());
    const { meshes: now, places } = poseRig(meshes, [{ animation: 0, seconds: 1, weight: 1 }]);
    expect(now[0]).equal(meshes[0]);
    expect(meshes[0].rig).equal(undefined);
    expect(now[1]).equal(meshes[1]);
    expect([...places.keys()]).deep.equal([1]);
    expect(now[3]).not.equal(meshes[3]);
  });

  it('are mixed by weight; without any weight the model rests', async () => {
    const meshes = await stored(await bring());
    expectAlike(posed(meshes, [0, 1.5, 0]), meshes);
    const x = (weight: number): number => posed(meshes, [0, 2, weight])[3].positions[2] - meshes[3].positions[2];
    expect(x(0.5)).closeTo(x(1) / 2, 1e-6);
    const both = posed(meshes, [0, 2], [1, 2]);
    // Each counts half where both count whole.
    expect(both[3].positions[2] - meshes[3].positions[2]).closeTo(x(1) / 2, 1e-6);
  });

  it('go with what is put right in a model: base, normals, unwrapping', async () => {
    const unwraps = [{ part: 2, unwrap: 'box' as const }];
    const prepared = prepareMeshes(await stored(await bring()), { toBase: true, normals: false, unwraps });
    const by = prepared[0].positions.map((v, i) => v - meshesOf0.positions[i]);
    const wanted = meshesOf(await bring({ animation: 1, seconds: 1.3 }));
    const now = posed(prepared, [1, 1.3]);
    // The strip's corners now lie apart, in the order of its triangles.
    wanted[2].indices.forEach((v, corner) => {
      for (let a = 0; a < 3; a++)
        expect(now[2].positions[corner * 3 + a]).closeTo(wanted[2].positions[v * 3 + a] + by[a], 1e-5);
    });
  });
  let meshesOf0: Mesh;
  before(async () => void ([meshesOf0] = meshesOf(await bring())));
});

describe("the recipe of a model's animation", () => {
  async function scene(): Promise<{ product: ProductDocument; meshes: Mesh[] }> {
    const imported = await bring();
    const origin = { files: [], animations: imported.report.animations, pose: null };
    const about = { fileName: 'tin.glb', source: 'a', model: 'b', unit: 'm' as const, origin };
    return { product: productOf('Tin', about, imported.model), meshes: await stored(imported) };
  }
  const seconds = (frame: number, options: Record<string, number | string | boolean>, length = 24): unknown => {
    const recipe = newRecipe('r', 'own-animation', {
      ...{ start: 4, length, things: ['b'] },
      options: { animation: '1', from: 0, to: 2, ...options },
    });
    const shot = runCommand(movesShot(), applyRecipe(recipe));
    const { own } = thingAt(movesSet(), shot, 'b', frame) as { own?: Record<string, number> };
    return own?.['clips.1.weight'] === 0 ? 'rest' : own?.['clips.1.seconds'];
  };

  it('plays it over its length, forwards or back, as often as asked, and holds or lets go at the end', () => {
    expect(seconds(3, {})).equal('rest');
    expect(seconds(4, {})).equal(0);
    expect(seconds(16, {})).closeTo(1, 1e-9);
    expect(seconds(40, {})).closeTo(2, 1e-9);
    expect(seconds(10, { backwards: true })).closeTo(1.5, 1e-9);
    expect(seconds(19, { rounds: 2 })).closeTo(0.5, 1e-3);
    expect(seconds(28, { rounds: 1.5 })).closeTo(1, 1e-3);
    expect(seconds(27, { end: 'released' })).closeTo(2 * (23 / 24), 1e-9);
    expect(seconds(28, { end: 'released' })).equal('rest');
  });

  it('moves parts in the tableau that takes and exports are made of, with where they are as the shutter closes', async () => {
    const { product, meshes } = await scene();
    const set = movesSet();
    set.products = [{ ...plainItem(), id: 'b', name: 'Tin', product: 'tin', position: [0, 0, 0] }];
    set.cameras[0].shutter = 180;
    const recipe = newRecipe('r', 'own-animation', {
      ...{ start: 0, length: 48, things: ['b'] },
      options: { animation: '0', from: 0, to: 2 },
    });
    const shot = runCommand(movesShot(), applyRecipe(recipe));
    const context = { products: new Map([['tin', product]]), meshes: () => meshes, aspect: 1 };
    const [instance] = evaluateMotion(compile(set, shot), 12, context).instances;
    const part = (index: number) => instance.parts.find((p) => p.index === index)!;
    const { places } = poseRig(meshes, [{ animation: 0, seconds: 0.5, weight: 1 }]);
    part(1).place!.matrix.forEach((v, i) => expect(v).closeTo(places.get(1)![i], 1e-9));
    expect(part(1).place!.close).not.equal(undefined);
    expect(part(3).shape!.close!.positions).not.deep.equal(part(3).shape!.mesh.positions);
    // It stands by how it rests: what opens does not lift it off the ground.
    const closed = evaluateMotion(compile(set, shot), 0, context).instances[0].matrix[13];
    expect(instance.matrix[13]).closeTo(closed, 1e-12);
  });

  it('leaves as an animated GLB: stiff parts as nodes, deforming ones by morph targets', async () => {
    const { product, meshes } = await scene();
    const set = movesSet();
    set.products = [{ ...plainItem(), id: 'b', name: 'Tin', product: 'tin', position: [0, 0, 0], seated: false }];
    const recipe = newRecipe('r', 'own-animation', {
      ...{ start: 0, length: 40, things: ['b'] },
      options: { animation: '0', from: 0, to: 2 },
    });
    const shot = runCommand(movesShot(), applyRecipe(recipe));
    const context = { products: new Map([['tin', product]]), meshes: () => meshes, aspect: 1 };
    const tableaux = Array.from({ length: 48 }, (_, frame) => evaluate(compile(set, shot), frame, context));
    const bytes = await writeStaged({
      ...{ name: 'Open', tableaux, rate: { num: 24, den: 1 } },
      models: new Map([['b', { meshes, images: [] }]]),
      pictures: new Map(),
    });
    const report = await validator.validateBytes(bytes);
    expect(report.issues.messages.filter((m: { severity: number }) => m.severity === 0)).deep.equal([]);
    for (const frame of [0, 11, 40, 47]) {
      const { model } = await importModel('open.glb', bytes, {}, await decoders(), {
        pose: { animation: 0, seconds: frame / 24 },
      });
      const [instance] = tableaux[frame].instances;
      for (const index of [1, 3]) {
        const found = model.parts.find(({ name }) => name.startsWith(`Tin part ${index + 1}`))!;
        const { place, shape } = instance.parts.find((p) => p.index === index)!;
        const whole = place ? multiply(instance.matrix, place.matrix) : instance.matrix;
        const wanted = transformMesh(shape?.mesh ?? meshes[index], whole);
        wanted.positions.forEach((v, i) => expect(found.mesh.positions[i]).closeTo(v, 1e-5));
      }
    }
  });

  it('own values of animations go with those of parts', async () => {
    const { product, meshes } = await scene();
    const lifted = ownBody(product, meshes, '', { 'clips.0.seconds': 1, 'parts.1.shift.1': 0.5 });
    const alone = ownBody(product, meshes, '', { 'clips.0.seconds': 1 });
    expect(lifted.places.get(1)![13] - alone.places.get(1)![13]).closeTo(0.5 / product.scale, 1e-9);
    expect(lifted.resting).equal(meshes);
  });
});
