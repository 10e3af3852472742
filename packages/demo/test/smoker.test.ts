import { expect } from 'chai';
import { boundsOf, transformPoint, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import { importModel, readModel, type ImportedModel } from '@tender-orbit/core/interchange';
import { poseRig, type RiggedModel } from '@tender-orbit/core/product';
import { makeModels } from '@tender-orbit/demo';

describe('demo: the smoker', () => {
  let imported: ImportedModel;
  let meshes: Mesh[];
  before(async () => {
    const { glb } = (await makeModels()).find(({ key }) => key === 'smoker')!;
    imported = await importModel('smoker.glb', glb, {}, { draco: null, meshopt: null });
    meshes = (await readModel(imported.glb)).parts.map(({ mesh }) => mesh);
  });
  const index = (name: string): number => imported.model.parts.findIndex((part) => part.name === name);
  const at = (animation: number, seconds: number): RiggedModel => poseRig(meshes, [{ animation, seconds, weight: 1 }]);

  it('brings its own animations: a lid and bellows', () => {
    expect(imported.report.animations.map(({ name }) => name)).deep.equal(['Open the lid', 'Puff']);
    expect(imported.model.parts.map(({ name }) => name)).deep.equal([
      ...['Can', 'Lid', 'Fixed board', 'Moving board', 'Leather'],
    ]);
  });

  it('its lid opens backwards about its hinge, which stays where it is', () => {
    const { places } = at(0, 9);
    const matrix = places.get(index('Lid'))!;
    const hinge: Vec3 = [0, 0.112, -0.044];
    transformPoint(matrix, hinge).forEach((v, axis) => expect(v).closeTo(hinge[axis], 1e-6));
    const spout = transformPoint(matrix, [0, 0.179, 0]);
    expect(spout[2]).below(-0.08);
    expect(places.size).equal(1);
  });

  it('its leather stays on both boards while the bellows puff', () => {
    const pressed = at(1, 0.35);
    const [rest, now] = [meshes, pressed.meshes].map((all) => all[index('Leather')].positions);
    const board = pressed.places.get(index('Moving board'))!;
    const last = rest.length / 3 - 49;
    for (let v = 0; v < rest.length / 3; v++) {
      const before = [0, 1, 2].map((a) => rest[v * 3 + a]) as Vec3;
      const wanted = v < 49 ? before : v >= last ? transformPoint(board, before) : null;
      wanted?.forEach((value, a) => expect(now[v * 3 + a]).closeTo(value, 1e-6));
    }
    const depth = (positions: Float32Array): number => {
      const { min, max } = boundsOf([{ ...meshes[index('Leather')], positions }]);
      return max[2] - min[2];
    };
    expect(depth(now)).below(depth(rest) * 0.6);
  });
});
