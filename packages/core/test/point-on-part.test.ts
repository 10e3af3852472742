import { expect } from 'chai';
import { makeFinish } from '@tender-orbit/core/finish';
import {
  aimMatrix,
  multiply,
  placementMatrix,
  transformPoint,
  type Mesh,
  type Vec3,
} from '@tender-orbit/core/geometry';
import type { ShownPart } from '@tender-orbit/core/product';
import { worldOfPoint, nearestOnParts, type TableauInstance } from '@tender-orbit/core/scene';

/** A square of 10 cm about the middle, facing up, at a height; `bend` lifts its far corners. */
function square(height: number, bend = 0): Mesh {
  const s = 0.05;
  return {
    positions: Float32Array.from([-s, height, -s, s, height, -s, s, height + bend, s, -s, height + bend, s]),
    normals: Float32Array.from([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
    uvs: new Float32Array(8),
    indices: Uint32Array.from([0, 2, 1, 0, 3, 2]),
  };
}

const finish = makeFinish('Plain', {});
const meshes = [square(0), square(0.02)];
const PLACE = placementMatrix([0.3, 0.1, -0.2], 40, 10, 5, 2);

/** A jar of two parts: a base, and a lid with a place of its own. */
function jar(lid: Partial<ShownPart> = {}, matrix = PLACE): TableauInstance {
  const parts: ShownPart[] = [
    { index: 0, finish },
    { index: 1, finish, ...lid },
  ];
  return { id: 'jar', name: 'Jar', model: 'm', matrix, parts } as unknown as TableauInstance;
}

describe('scene: a point on a part of a thing', () => {
  const onLid: Vec3 = [0.013, 0.02, -0.031];
  const close = (got: Vec3 | null, want: Vec3): void => {
    expect(got).not.equal(null);
    got!.forEach((v, i) => expect(v).closeTo(want[i], 1e-7));
  };

  it('is on the part that it lies on, and where it was while nothing moves', () => {
    const at = transformPoint(PLACE, onLid);
    const on = nearestOnParts(jar(), meshes, at)!;
    expect(on.index).equal(1);
    close(worldOfPoint(jar(), meshes, on), at);
    expect(nearestOnParts(jar(), meshes, transformPoint(PLACE, [0.01, 0, 0.02]))!.index).equal(0);
    // What is a little off a part stays so.
    for (const beside of [
      [0.0505, 0.02, 0.01],
      [0.01, 0.0203, -0.02],
    ] as Vec3[]) {
      const place = transformPoint(PLACE, beside);
      const lid = nearestOnParts(jar(), meshes, place)!;
      expect(lid.index).equal(1);
      close(worldOfPoint(jar(), meshes, lid), place);
    }
    expect(nearestOnParts({ ...jar(), parts: [] }, meshes, at)).equal(null);
  });

  it('goes along as its part is lifted and turned, and as the whole thing goes', () => {
    const lifted = placementMatrix([0, 0.05, 0.01], 25, -30, 0, 1);
    const on = nearestOnParts(
      jar({ place: { matrix: placementMatrix([0, 0, 0], 0, 0, 0, 1) } }),
      meshes,
      transformPoint(PLACE, onLid),
    )!;
    close(worldOfPoint(jar({ place: { matrix: lifted } }), meshes, on), transformPoint(multiply(PLACE, lifted), onLid));
    const elsewhere = aimMatrix([1, 2, 3], [0, 0, 0], 20);
    close(
      worldOfPoint(jar({ place: { matrix: lifted } }, elsewhere), meshes, on),
      transformPoint(multiply(elsewhere, lifted), onLid),
    );
  });

  it('bends with a part that deforms, lies on a label of its slot, and is nowhere when its part is not shown', () => {
    const on = nearestOnParts(jar(), meshes, transformPoint(PLACE, onLid))!;
    const bent = square(0.02, 0.04);
    const share = (onLid[2] + 0.05) / 0.1;
    close(
      worldOfPoint(jar({ shape: { mesh: bent } }), meshes, on),
      transformPoint(PLACE, [onLid[0], 0.02 + 0.04 * share, onLid[2]]),
    );
    const labelled = jar();
    labelled.parts = [...labelled.parts, { index: 1, finish, shell: square(0.0205), slot: 'front' }];
    const label = nearestOnParts(labelled, meshes, transformPoint(PLACE, [0, 0.0205, 0]))!;
    expect([label.index, label.slot]).deep.equal([1, 'front']);
    expect(worldOfPoint(jar(), meshes, label)).equal(null);
  });
});
