import { expect } from 'chai';
import {
  BLOCK_FORMS,
  newBlock,
  newSet,
  newShot,
  plainItem,
  ROOM_KINDS,
  validateDocument,
  type BlockForm,
  type SetDocument,
} from '@tender-orbit/core/document';
import { boundsOf, boundsSize, buildBlock } from '@tender-orbit/core/geometry';
import { readHdr, writeHdr } from '@tender-orbit/core/interchange';
import { acrossOf, azimuthOf, drawnRoom, panoramaOf, type Panorama, type PanoramaBox } from '@tender-orbit/core/light';
import { compile, evaluate } from '@tender-orbit/core/scene';
import { builtDocument, builtMeshes, modelKey, newBuilder } from '@tender-orbit/core/product';
import { openEdges, volumeOf } from './mesh-facts.ts';

describe('geometry: blocks to stand things on', () => {
  for (const form of BLOCK_FORMS) {
    const block = newBlock('b', form);
    it(`${form}: of its size, on its base${['floor', 'wall'].includes(form) ? '' : ', watertight and outward'}`, () => {
      const mesh = buildBlock(block);
      const box = boundsOf([mesh]);
      const size = boundsSize(box);
      expect(size[0]).closeTo(block.width, 1e-6);
      expect(box.min[1]).closeTo(form === 'floor' ? block.height : 0, 1e-6);
      if (form === 'floor' || form === 'wall') return;
      expect(size[1]).closeTo(block.height, 1e-6);
      if (form !== 'drum') expect(size[2]).closeTo(block.depth, 1e-6);
      expect(openEdges([mesh])).deep.equal([]);
      expect(volumeOf([mesh])).above(0);
    });
  }
});

describe('motion: what stands on what', () => {
  const carton = builtDocument('Box', newBuilder('carton'));
  const meshes = builtMeshes(modelKey(carton))!;
  const context = { products: new Map([['p', carton]]), meshes: () => meshes, aspect: 1.5 };
  const item = (id: string, values: Partial<SetDocument['products'][number]>) => ({
    ...plainItem(),
    ...{ id, name: id, product: 'p', position: [0, 0, 0] as [number, number, number] },
    ...values,
  });
  const bottoms = (set: SetDocument): Record<string, number> =>
    Object.fromEntries(
      evaluate(compile(set, newShot('s', 'set', 'hero', 1)), 0, context).instances.map((i) => [
        i.id,
        boundsOf(meshes, i.matrix).min[1],
      ]),
    );

  it('seats a product on a block to a micrometre, tilted or not', () => {
    for (const tilt of [0, 33])
      for (const form of ['plinth', 'drum', 'tabletop'] as BlockForm[]) {
        const block = newBlock('b', form, { position: [0, 0.02, 0] });
        const set = { ...newSet('S'), surfaces: [block], products: [item('a', { standsOn: 'b', tilt })] };
        expect(bottoms(set).a, form).closeTo(0.02 + block.height, 1e-6);
      }
  });

  it('seats it on the step that is under it, however the flight is turned', () => {
    const steps = newBlock('b', 'steps', { position: [0, 0, 0], height: 0.12, depth: 0.24, steps: 3 });
    const at = (z: number, turn = 0): number =>
      bottoms({
        ...newSet('S'),
        surfaces: [{ ...steps, turn }],
        products: [item('a', { standsOn: 'b', position: [0, 0, z] })],
      }).a;
    expect([0.1, 0, -0.1].map((z) => Math.round(at(z) * 100))).deep.equal([4, 8, 12]);
    expect([0.1, 0, -0.1].map((z) => Math.round(at(z, 180) * 100))).deep.equal([12, 8, 4]);
  });

  it('stacks products, in whichever order they are listed, and survives a ring', () => {
    const set = { ...newSet('S'), products: [item('top', { standsOn: 'low' }), item('low', {})] };
    expect(bottoms(set).top).closeTo(0.12, 1e-6);
    const ring = { ...newSet('S'), products: [item('a', { standsOn: 'b' }), item('b', { standsOn: 'a' })] };
    expect(Object.keys(bottoms(ring)).sort()).deep.equal(['a', 'b']);
  });

  it('falls back to the floor when what it stood on is gone', () => {
    expect(bottoms({ ...newSet('S'), products: [item('a', { standsOn: 'gone' })] }).a).closeTo(0, 1e-6);
  });
});

function luminanceAt({ width, height, data }: Panorama, azimuth: number, elevation: number): number {
  const x = Math.floor(acrossOf(azimuth) * width) % width;
  const y = Math.min(height - 1, Math.floor(((90 - elevation) / 180) * height));
  return data[(y * width + x) * 3 + 1];
}
function meanLuminance({ width, height, data }: Panorama): number {
  let [sum, weight] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const size = Math.sin(((y + 0.5) / height) * Math.PI);
      const i = (y * width + x) * 3;
      sum += size * (0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2]);
      weight += size;
    }
  return sum / weight;
}

describe('light: rooms', () => {
  const made = ROOM_KINDS.filter((k) => !['studio', 'drawn', 'file'].includes(k));

  it('are at least six besides the plain studio, all valid in a document', () => {
    expect(made.length).least(6);
    for (const kind of ROOM_KINDS) {
      const set = newSet('S');
      validateDocument('set', { ...set, environment: { ...set.environment, room: { kind, asset: '', boxes: [] } } });
    }
  });

  for (const kind of made) {
    it(`${kind}: mean luminance 1, so that its intensity reads in cd/m2, and no two are alike`, () => {
      const room = panoramaOf({ kind, boxes: [] });
      expect(meanLuminance(room)).closeTo(1, 1e-4);
      expect(room.data.every((v) => Number.isFinite(v) && v >= 0)).equal(true);
      for (const other of made)
        if (other !== kind) expect(panoramaOf({ kind: other, boxes: [] }).data).not.deep.equal(room.data);
    });
  }

  it('have azimuths that run as on the plan: in front 0, to the right 90', () => {
    expect(azimuthOf(0.5)).closeTo(180, 1e-9);
    expect(azimuthOf(0.75)).closeTo(90, 1e-9);
    expect(azimuthOf(0.25)).closeTo(-90, 1e-9);
    for (const a of [-170, -45, 0, 12, 130]) expect(azimuthOf(acrossOf(a))).closeTo(a, 1e-9);
  });

  it('show a softbox where it is drawn, at its colour and nowhere else, across the seam too', () => {
    for (const azimuth of [40, 0, 180]) {
      const lamp: PanoramaBox = {
        azimuth,
        elevation: 20,
        width: 30,
        height: 20,
        brightness: 20,
        kelvin: 3000,
        softness: 0.1,
      };
      const room = drawnRoom([lamp]);
      const bare = luminanceAt(room, azimuth + 90, 20);
      expect(luminanceAt(room, azimuth, 20) / bare).above(8);
      expect(luminanceAt(room, azimuth + 10, 24) / bare).above(8);
      expect(luminanceAt(room, azimuth - 30, 20) / bare).closeTo(1, 0.02);
      const i =
        (Math.floor((70 / 180) * room.height) * room.width +
          (Math.floor(acrossOf(azimuth) * room.width) % room.width)) *
        3;
      expect(room.data[i]).above(room.data[i + 2] * 2);
    }
  });
});

describe('interchange: Radiance panoramas', () => {
  const panorama: Panorama = {
    ...{ width: 12, height: 6 },
    data: Float32Array.from({ length: 12 * 6 * 3 }, (_, i) => (i % 7 === 0 ? 0 : Math.exp((i % 50) / 5 - 4))),
  };

  it('come back within the format’s precision of one in 128', () => {
    const back = readHdr(writeHdr(panorama));
    for (let p = 0; p < 72; p++) {
      const most = Math.max(...panorama.data.subarray(p * 3, p * 3 + 3));
      for (let c = 0; c < 3; c++) expect(Math.abs(back.data[p * 3 + c] - panorama.data[p * 3 + c])).most(most / 128);
    }
  });

  it('are read run-length encoded, too', () => {
    const head = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 1 +X 10\n');
    const rows = [2, 2, 0, 10, 138, 100, 3, 1, 2, 3, 135, 50, 138, 0, 138, 129];
    const { data } = readHdr(Uint8Array.from([...head, ...rows]));
    expect(data[0]).closeTo((100.5 / 256) * 2, 1e-6);
    expect([0, 1, 2, 3].map((x) => Math.round(data[x * 3 + 1] * 128 - 0.5))).deep.equal([1, 2, 3, 50]);
  });

  it('are refused by name when they are none or cut off', () => {
    expect(() => readHdr(new Uint8Array([1, 2, 3]), 'hall.hdr')).throw(/"hall.hdr".*does not begin/);
    const whole = writeHdr(panorama);
    for (const length of [whole.length - 1, 40, 12])
      expect(() => readHdr(whole.subarray(0, length))).throw(/could not be read/);
  });
});
