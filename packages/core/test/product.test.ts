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
import { boundsOf, boundsSize, triangleCount } from '@tender-orbit/core/geometry';
import {
  buildProduct,
  builtDocument,
  builtMeshes,
  modelKey,
  newBuilder,
  shownParts,
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
      parts: jar.parts.map((p) => (p.name === 'Cap' ? { ...p, visible: false, finish: jar.finishes[0].id } : p)),
      variants: [{ ...newVariant('first', 'One'), hidden: [lid.index] }],
    };
    const dry = withBuilder(painted, { ...TURNED_PRESETS.jar, fill: 0 });
    const cap = dry.parts.find((p) => p.name === 'Cap')!;
    expect(cap).include({ visible: false, finish: jar.finishes[0].id });
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
        finishes: [{ part: cap, finish: jar.finishes[0].id }],
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

  it('print projected labels opaque, also on glass, and leave the glass as it is', () => {
    const body = jar.parts.find((p) => p.name === 'Body')!.index;
    const slot = newSlot('wrap', 'Wrap', body, { projection: 'round', centre: [0, 0.03, 0.034] });
    const variant = { ...newVariant('v', 'V'), fills: [{ slot: 'wrap', sheet: 'art', look: plainLook() }] };
    const shown = shownParts({ ...product, slots: [slot], variants: [variant] }, 'v', meshes);
    const shell = shown.find((p) => p.shell)!;
    expect(shell.index).equal(body);
    expect(shell.finish).deep.include({ transmission: 0, alphaMode: 'blend' });
    expect(shell.finish.textures.baseColor?.picture).deep.equal(SHEET);
    expect(shown.find((p) => p.index === body && !p.shell)!.finish.transmission).equal(1);
  });

  it('are found by id, the first where there is no such id', () => {
    expect(shownParts(product, 'gone', meshes)).deep.equal(shownParts(product, 'first', meshes));
  });
});
