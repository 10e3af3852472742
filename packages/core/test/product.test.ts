import { expect } from 'chai';
import {
  BUILDER_KINDS,
  newSlot,
  newVariant,
  plainLook,
  validateDocument,
  type Builder,
  type ProductDocument,
} from '@tender-orbit/core/document';
import type { PixelPicture } from '@tender-orbit/core/finish';
import { boundsOf, boundsSize, buildTurned, triangleCount } from '@tender-orbit/core/geometry';
import {
  buildProduct,
  builtDocument,
  builtMeshes,
  labelShell,
  modelKey,
  newBuilder,
  shownParts,
  traceSilhouette,
  TURNED_PRESETS,
  withBuilder,
  type BuiltPart,
} from '@tender-orbit/core/product';
import { normalError, openEdges, volumeOf } from './mesh-facts.ts';

const part = (parts: BuiltPart[], name: string): BuiltPart => parts.find((p) => p.name === name)!;
const meshesOf = (parts: BuiltPart[], names: RegExp): BuiltPart['mesh'][] =>
  parts.filter((p) => names.test(p.name)).map((p) => p.mesh);

/** Metres to a whole u and v along a part's longest straight edges: together the proportion its art is drawn at. */
function drawnSize({ mesh }: BuiltPart): [number, number] {
  const best = [0, 0].map(() => ({ span: 0, metres: 0 }));
  for (let t = 0; t < mesh.indices.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [mesh.indices[t + k], mesh.indices[t + ((k + 1) % 3)]];
      const uv = [0, 1].map((c) => Math.abs(mesh.uvs[b * 2 + c] - mesh.uvs[a * 2 + c]));
      const length = Math.hypot(...[0, 1, 2].map((c) => mesh.positions[b * 3 + c] - mesh.positions[a * 3 + c]));
      for (const axis of [0, 1])
        if (uv[1 - axis] < 1e-6 && uv[axis] > best[axis].span)
          best[axis] = { span: uv[axis], metres: length / uv[axis] };
    }
  }
  return [best[0].metres, best[1].metres];
}

describe('product: carton', () => {
  const builder = { ...newBuilder('carton'), width: 0.08, height: 0.12, depth: 0.05 } as Builder & { kind: 'carton' };
  const closed = buildProduct(builder);
  const BODY = /^(Front|Back|Left|Right|Bottom|Inside)$/;

  it('has the real size it is given, closed, to a micrometre', () => {
    const size = boundsSize(boundsOf(closed.map((p) => p.mesh)));
    [0.08, 0.12, 0.05].forEach((side, axis) => expect(size[axis]).closeTo(side, 1e-6));
  });

  it('is watertight: walls with their inner sides, and lid and flaps each by themselves', () => {
    expect(openEdges(meshesOf(closed, BODY))).deep.equal([]);
    expect(openEdges(meshesOf(closed, /^(Top|Tuck flap|Left dust flap|Right dust flap|Lid inside)$/))).deep.equal([]);
  });

  it('is made of board: it holds the board and not the air', () => {
    const { width: w, height: h, depth: d, board: t } = builder;
    const shell = volumeOf(meshesOf(closed, BODY));
    expect(shell / (2 * (w + d) * h * t + w * d * t)).within(0.9, 1.05);
  });

  it('gives each face art at the face’s own proportion', () => {
    for (const name of ['Front', 'Back', 'Left', 'Right', 'Top', 'Bottom']) {
      const face = part(closed, name);
      const [w, h] = face.panel!;
      const us = face.mesh.uvs.filter((_, i) => i % 2 === 0);
      expect([Math.min(...us), Math.max(...us)], name).deep.equal([0, 1]);
      const real =
        name === 'Front' || name === 'Back' ? [0.08, 0.12] : name.match(/Left|Right/) ? [0.05, 0.12] : [0.08, 0.05];
      expect(w / h / (real[0] / real[1]), name).closeTo(1, 0.01);
    }
    for (const [name, w, h] of [
      ['Front', 0.08, 0.12],
      ['Left', 0.05, 0.12],
      ['Top', 0.08, 0.05],
    ] as const) {
      const [across, down] = drawnSize(part(closed, name));
      expect(across / w, name).closeTo(1, 0.02);
      expect(down / h, name).closeTo(1, 0.02);
    }
  });

  it('opens: the lid rises about its back edge, the walls stay', () => {
    const open = buildProduct({ ...builder, open: 90 });
    const lid = boundsOf([part(open, 'Top').mesh]);
    expect(lid.max[1]).closeTo(0.12 - builder.board + 0.05, 0.001);
    expect(lid.max[2]).below(-0.05 / 2 + 0.002);
    expect([...part(open, 'Front').mesh.positions]).deep.equal([...part(closed, 'Front').mesh.positions]);
  });

  it('shows art the right way round: u runs to the right of whoever looks at the face', () => {
    const rightOf: Record<string, [number, number]> = { Front: [0, 1], Right: [2, -1], Back: [0, -1], Left: [2, 1] };
    for (const [name, [axis, sign]] of Object.entries(rightOf)) {
      const { positions, uvs } = part(closed, name).mesh;
      let [left, right] = [0, 0];
      for (let v = 0; v < uvs.length / 2; v++) {
        if (uvs[v * 2] === 0) left = positions[v * 3 + axis];
        if (uvs[v * 2] === 1) right = positions[v * 3 + axis];
      }
      expect(Math.sign(right - left), name).equal(sign);
    }
  });
});

describe('product: turned body', () => {
  for (const [name, builder] of Object.entries(TURNED_PRESETS)) {
    it(`${name}: every solid is watertight, outward and has unit normals`, () => {
      for (const built of buildProduct(builder)) {
        expect(normalError(built.mesh), built.name).below(1e-5);
        if (built.name === 'Label') continue;
        expect(openEdges([built.mesh]), built.name).deep.equal([]);
        expect(volumeOf([built.mesh]), built.name).above(0);
      }
    });
  }

  it('keeps the wall’s thickness where it is measured', () => {
    const glass = buildProduct({ ...TURNED_PRESETS.jar, fill: 0 }).find((p) => p.name === 'Body')!.mesh;
    const at: number[] = [];
    for (let i = 0; i < glass.positions.length; i += 3) {
      const [x, y, z] = glass.positions.subarray(i, i + 3);
      if (y > 0.005 && y < 0.062 && Math.hypot(x, z) < 0.033) at.push(Math.hypot(x, z));
    }
    expect(at.length).above(0);
    expect(Math.max(...at)).closeTo(0.034 - 0.0024, 2e-6);
  });

  it('fills up to the level: twice as full holds about twice as much', () => {
    const volume = (fill: number): number =>
      volumeOf(meshesOf(buildProduct({ ...TURNED_PRESETS.tin, fill }), /Liquid/));
    expect(volume(0.8) / volume(0.4)).closeTo(2, 0.06);
  });

  it('leaves a neck open and its cork inside', () => {
    const bottle = buildProduct(TURNED_PRESETS.bottle);
    expect(part(bottle, 'Cork')).not.equal(undefined);
    expect(volumeOf([part(bottle, 'Body').mesh])).below(volumeOf([part(bottle, 'Liquid').mesh]));
  });

  it('states the label’s real size: round by height', () => {
    const [round, high] = part(buildProduct(TURNED_PRESETS.jar), 'Label').panel!;
    expect(round).closeTo((0.03415 * 310 * Math.PI) / 180, 1e-5);
    expect(high).closeTo(0.04, 1e-9);
  });
});

describe('product: device, pouch and cut-out letters', () => {
  for (const kind of BUILDER_KINDS.filter((k) => k !== 'carton' && k !== 'turned')) {
    it(`${kind} is watertight, outward and of its size`, () => {
      const builder = newBuilder(kind);
      const parts = buildProduct(builder);
      expect(openEdges(parts.map((p) => p.mesh))).deep.equal([]);
      expect(volumeOf(parts.map((p) => p.mesh))).above(0);
      expect(boundsSize(boundsOf(parts.map((p) => p.mesh)))[1]).closeTo((builder as { height: number }).height, 1e-6);
    });
  }

  it('cuts a screen’s picture to its corners', () => {
    const { mesh } = part(buildProduct(newBuilder('device')), 'Screen');
    const us = [...mesh.uvs].filter((_, i) => i % 2 === 0);
    const vs = [...mesh.uvs].filter((_, i) => i % 2 === 1);
    expect(
      [Math.min(...us), Math.max(...us), Math.min(...vs), Math.max(...vs)].map((v) => Math.round(v * 1e5) / 1e5),
    ).deep.equal([0, 1, 0, 1]);
    expect(us.some((u, i) => u < 0.01 && vs[i] < 0.01)).equal(false);
  });

  it('cuts holes out of letters', () => {
    const ring: Builder = {
      ...(newBuilder('cutout') as Builder & { kind: 'cutout' }),
      outlines: [
        [0, 0, 1, 0, 1, 1, 0, 1],
        [0.25, 0.25, 0.75, 0.25, 0.75, 0.75, 0.25, 0.75],
      ],
      bevel: 0,
    };
    const parts = buildProduct(ring);
    expect(openEdges(parts.map((p) => p.mesh))).deep.equal([]);
    expect(volumeOf(parts.map((p) => p.mesh)) / (0.06 * 0.06 * 0.015)).closeTo(0.75, 1e-4);
  });
});

describe('product: documents', () => {
  const carton = builtDocument('Box', newBuilder('carton'));

  it('are valid as they are made, for every builder', () => {
    for (const kind of BUILDER_KINDS) validateDocument('product', builtDocument(kind, newBuilder(kind)));
  });

  it('have a slot on every face that takes art', () => {
    expect(carton.slots.map((s) => s.name)).include.members(['Front', 'Back', 'Left', 'Right', 'Top', 'Bottom']);
  });

  it('keep finishes, art and what is hidden when numbers change, even where parts come and go', () => {
    const jar = builtDocument('Jar', TURNED_PRESETS.jar);
    const lid = jar.parts.find((p) => p.name === 'Cap')!;
    const painted: ProductDocument = {
      ...jar,
      parts: jar.parts.map((p) => (p.name === 'Cap' ? { ...p, visible: false, finish: 0 } : p)),
      variants: [{ ...newVariant('first', 'One'), hidden: [lid.index] }],
    };
    const dry = withBuilder(painted, { ...TURNED_PRESETS.jar, fill: 0 });
    const cap = dry.parts.find((p) => p.name === 'Cap')!;
    expect(cap).include({ visible: false, finish: 0 });
    expect(cap.index).not.equal(lid.index);
    expect(dry.variants[0].hidden).deep.equal([cap.index]);
    expect(dry.slots.find((s) => s.name === 'Label')!.part).equal(dry.parts.find((p) => p.name === 'Label')!.index);
  });

  it('refuse numbers that leave nothing', () => {
    const flat: Builder = { ...(newBuilder('cutout') as Builder & { kind: 'cutout' }), outlines: [[0, 0, 1, 0, 2, 0]] };
    expect(() => withBuilder(carton, flat)).throw(/nothing is left/);
  });

  it('know their meshes by their numbers: the same key, the same bytes', () => {
    const meshes = builtMeshes(modelKey(carton))!;
    expect(meshes.length).equal(carton.parts.length);
    expect(meshes.map(triangleCount)).deep.equal(carton.parts.map((p) => p.triangles));
    expect(builtMeshes('a'.repeat(64))).equal(null);
  });
});

describe('product: variants', () => {
  const SHEET = { asset: 'c'.repeat(64), pattern: null, look: null, emboss: false };
  const jar = builtDocument('Jar', TURNED_PRESETS.jar);
  const label = jar.parts.find((p) => p.name === 'Label')!.index;
  const cap = jar.parts.find((p) => p.name === 'Cap')!.index;
  const product: ProductDocument = {
    ...jar,
    sheets: [{ id: 'art', name: 'Art', picture: SHEET, width: 10, height: 10 }],
    variants: [
      newVariant('first', 'Bare'),
      {
        ...newVariant('dressed', 'Dressed'),
        fills: [{ slot: 'slot-label', sheet: 'art', look: plainLook() }],
        finishes: [{ part: cap, finish: 0 }],
        hidden: [0],
      },
    ],
  };
  const meshes = builtMeshes(modelKey(product))!;

  it('fill slots, swap finishes and hide parts, and leave the other variant alone', () => {
    const dressed = shownParts(product, 'dressed', meshes);
    expect(dressed.some((p) => p.index === 0)).equal(false);
    expect(dressed.find((p) => p.index === label)!.finish.textures.baseColor?.picture).deep.equal(SHEET);
    expect(dressed.find((p) => p.index === cap)!.finish.name).equal(product.finishes[0].name);
    const bare = shownParts(product, '', meshes);
    expect(bare.length).equal(product.parts.length);
    expect(bare.find((p) => p.index === label)!.finish.textures.baseColor).equal(undefined);
  });

  it('change only the channels that are chosen', () => {
    const foil: ProductDocument = {
      ...product,
      slots: product.slots.map((s) => ({ ...s, colour: false, emboss: 2, roughness: 0.9 })),
    };
    const { finish } = shownParts(foil, 'dressed', meshes).find((p) => p.index === label)!;
    expect(finish.textures.baseColor).equal(undefined);
    expect(finish.textures.normal).deep.include({ strength: 2, picture: { ...SHEET, emboss: true } });
    expect(finish.roughness).equal(0.9);
  });

  it('carry levels, inversion and tint to the picture', () => {
    const look = { ...plainLook(), invert: true, tint: '#FF8800' };
    const tinted: ProductDocument = {
      ...product,
      variants: [{ ...newVariant('v', 'V'), fills: [{ slot: 'slot-label', sheet: 'art', look }] }],
    };
    const { finish } = shownParts(tinted, 'v', meshes).find((p) => p.index === label)!;
    expect(finish.textures.baseColor?.picture?.look).deep.equal(look);
  });

  it('are found by id, the first where there is no such id', () => {
    expect(shownParts(product, 'gone', meshes)).deep.equal(shownParts(product, 'first', meshes));
  });
});

describe('product: projected labels', () => {
  const tube = buildTurned({
    profile: [
      [0.04, 0],
      [0.04, 0.1],
    ],
    segments: 180,
  });
  const area = (mesh: { positions: Float32Array; indices: Uint32Array }): number => {
    let sum = 0;
    for (let t = 0; t < mesh.indices.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) =>
        mesh.positions.subarray(mesh.indices[t + k] * 3, mesh.indices[t + k] * 3 + 3),
      );
      const u = [0, 1, 2].map((k) => b[k] - a[k]);
      const v = [0, 1, 2].map((k) => c[k] - a[k]);
      sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    }
    return sum;
  };
  const round = newSlot('l', 'Label', 0, { projection: 'round', centre: [0, 0.05, 0.04], width: 0.06, height: 0.03 });

  it('wrapped round, cover exactly their own size', () => {
    expect(area(labelShell(tube, round)) / (0.06 * 0.03)).closeTo(1, 0.005);
  });

  it('wrapped across the seam at the back, too', () => {
    expect(area(labelShell(tube, { ...round, turn: 180 })) / (0.06 * 0.03)).closeTo(1, 0.005);
  });

  it('thrown straight, cover their size as seen from the front and nothing behind', () => {
    const flat = labelShell(
      tube,
      newSlot('l', 'Label', 0, { projection: 'planar', centre: [0, 0.05, 0], width: 0.04, height: 0.02 }),
    );
    const box = boundsOf([flat]);
    expect(box.min[2]).above(0.03);
    expect([box.max[0] - box.min[0], box.max[1] - box.min[1]].map((v) => Math.round(v * 1e4))).deep.equal([401, 200]);
  });

  it('have their corners rounded off', () => {
    const whole = area(labelShell(tube, round));
    const cut = area(labelShell(tube, { ...round, corner: 0.5 }));
    const circle = (4 - Math.PI) * 0.015 ** 2;
    expect((whole - cut) / circle).closeTo(1, 0.06);
  });

  it('turned, have art that turns with them', () => {
    const shell = labelShell(tube, { ...round, roll: 90 });
    const box = boundsOf([shell]);
    expect(box.max[1] - box.min[1]).closeTo(0.06, 1e-3);
  });
});

describe('product: a profile traced from a silhouette', () => {
  /** A picture of a turned shape: radius in pixels for each row, anti-aliased, a little off the middle, with dust. */
  function silhouette(radius: (row: number) => number, rows: [number, number], axis = 101.3): PixelPicture {
    const [width, height] = [200, 240];
    const data = new Uint8Array(width * height * 4);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const r = y >= rows[0] && y < rows[1] ? radius(y) : -1;
        const cover = Math.min(1, Math.max(0, r + 0.5 - Math.abs(x + 0.5 - axis)));
        const dust = x > 10 && x < 14 && y > 20 && y < 24 ? 1 : cover;
        const v = Math.round(235 - 200 * dust);
        data.set([v, v, Math.min(255, v + 6), 255], (y * width + x) * 4);
      }
    return { width, height, data };
  }
  const options = { height: 0.1, threshold: 0.392, tolerance: 0.0002 };

  it('finds a cylinder’s radius and height to a tenth of a pixel', () => {
    const profile = traceSilhouette(
      silhouette(() => 40.25, [20, 220]),
      options,
    );
    expect(profile.length).equal(3);
    expect(profile[1][0]).closeTo((40.25 / 200) * 0.1, 0.00006);
    expect(profile[2]).deep.equal([profile[2][0], 0.1, 0]);
  });

  it('follows a vase, from the base upward, within its tolerance', () => {
    const radius = (y: number): number => 40 + 18 * Math.sin((y - 20) / 32);
    const profile = traceSilhouette(silhouette(radius, [20, 220]), options);
    expect(profile.length).within(8, 60);
    for (const [r, y] of profile.slice(2, -1)) {
      const row = 220 - (y / 0.1) * 200;
      expect(r).closeTo((radius(row - 0.5) / 200) * 0.1, 0.0004);
    }
    expect(profile.map((p) => p[1])).deep.equal(profile.map((p) => p[1]).sort((a, b) => a - b));
  });

  it('makes a watertight body', () => {
    const profile = traceSilhouette(
      silhouette((y) => 30 + 20 * Math.sin((y - 20) / 64), [20, 220]),
      options,
    );
    const [body] = buildProduct({
      ...TURNED_PRESETS.jar,
      profile,
      wall: 0.002,
      fill: 0,
      cap: { kind: 'none', height: 0 },
    });
    expect(openEdges([body.mesh])).deep.equal([]);
  });

  it('says so when nothing stands out, or it is cut off', () => {
    expect(() =>
      traceSilhouette(
        silhouette(() => -1, [0, 0]),
        { ...options, threshold: 0.9 },
      ),
    ).throw(/Nothing stands out/);
    expect(() =>
      traceSilhouette(
        silhouette(() => 150, [20, 220]),
        options,
      ),
    ).throw(/runs out of the picture/);
  });
});
