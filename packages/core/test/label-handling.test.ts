import { expect } from 'chai';
import {
  findFinish,
  newSlot,
  validateDocument,
  type LabelSlot,
  type ProductDocument,
} from '@tender-orbit/core/document';
import { makePicture, pictureKey, type Mask, type PictureSource } from '@tender-orbit/core/finish';
import { buildTurned } from '@tender-orbit/core/geometry';
import {
  builtDocument,
  builtMeshes,
  carryVariant,
  LABEL_GRIPS,
  labelOffset,
  labelPoint,
  labelShell,
  modelKey,
  newBuilder,
  pullLabel,
  shownParts,
  TURNED_PRESETS,
} from '@tender-orbit/core/product';

const RADIUS = 0.03;
const place = { centre: [0, 0.05, RADIUS] as LabelSlot['centre'], width: 0.04, height: 0.02 };
const slots = [
  newSlot('r', 'Round', 0, { ...place, projection: 'round', turn: 40, roll: 20 }),
  newSlot('p', 'Flat', 0, { ...place, projection: 'planar', turn: -30, roll: 200 }),
];

describe('product: a label held on the product', () => {
  for (const slot of slots) {
    it(`finds the place of a ${slot.projection} label and back`, () => {
      const [c, s] = [Math.cos((slot.roll * Math.PI) / 180), Math.sin((slot.roll * Math.PI) / 180)];
      for (const [a, b] of [
        [0, 0],
        [0.02, 0.01],
        [-0.013, 0.004],
      ]) {
        const [x, y] = labelOffset(slot, labelPoint(slot, a, b));
        expect(x).closeTo(a * c - b * s, 1e-12);
        expect(y).closeTo(a * s + b * c, 1e-12);
      }
    });

    it(`gives a ${slot.projection} label's corner where the shell ends`, () => {
      const tube = buildTurned({
        profile: [
          [RADIUS, 0],
          [RADIUS, 0.1],
        ],
        segments: 720,
      });
      const flat = { ...slot, roll: 0, ...(slot.projection === 'planar' && { width: 0.01 }) };
      const { positions, uvs } = labelShell(tube, flat);
      // The shell's vertex nearest the upper left of the label against the place worked out for it.
      let best = 0;
      for (let i = 0; i < uvs.length; i += 2) if (uvs[i] + uvs[i + 1] < uvs[best] + uvs[best + 1]) best = i;
      const found = [...positions.slice((best / 2) * 3, (best / 2) * 3 + 3)];
      const [x, y] = labelOffset(flat, found);
      expect(x).closeTo(-flat.width / 2, 2e-4);
      expect(y).closeTo(flat.height / 2, 2e-4);
    });

    it(`pulls the grips of a ${slot.projection} label`, () => {
      const to = (a: number, b: number): number[] => labelPoint(slot, a, b);
      expect(pullLabel(slot, 'e', to(0.03, 0.003)).width).closeTo(0.06, 1e-9);
      expect(pullLabel(slot, 's', to(0, -0.02)).height).closeTo(0.04, 1e-9);
      const corner = pullLabel(slot, 'ne', to(0.03, 0.01));
      expect(corner.width).closeTo(0.06, 1e-9);
      expect(corner.height! / corner.width!).closeTo(slot.height / slot.width, 1e-9);
      expect(pullLabel(slot, 'sw', to(-0.03, -0.01), true)).deep.keys('width', 'height');
      expect(pullLabel(slot, 'nw', to(0, 0)).width).above(0);
    });
  }

  it('turns so that the ring stays under the pointer, in whole degrees or fifteens', () => {
    for (const roll of [-170, -35, 0, 12, 90]) {
      const ring = labelPoint({ ...slots[1], roll }, 0, 0.03);
      expect(pullLabel(slots[1], 'turn', ring).roll).equal(roll);
    }
    expect(pullLabel(slots[1], 'turn', labelPoint({ ...slots[1], roll: 40 }, 0, 0.03), true).roll).equal(45);
    expect(Object.keys(LABEL_GRIPS)).length(9);
  });
});

describe('finish: a mask by brush', () => {
  const paper = { width: 60, height: 30, data: new Uint8Array(60 * 30 * 4).fill(200) };
  const source = (mask: Mask): PictureSource => ({ asset: 'a', pattern: null, look: null, emboss: false, mask });
  const alpha = (mask: Mask, x: number, y: number): number => {
    const picture = makePicture(source(mask), paper);
    return picture.data[(Math.floor(y * picture.height) * picture.width + Math.floor(x * picture.width)) * 4 + 3];
  };
  const hide = { hide: true, radius: 0.1, points: [0.2, 0.5, 0.8, 0.5] };

  it('takes art away along a stroke and leaves the rest', () => {
    const mask = { aspect: 0.5, strokes: [hide] };
    expect(alpha(mask, 0.2, 0.5)).equal(0);
    expect(alpha(mask, 0.5, 0.5)).equal(0);
    expect(alpha(mask, 0.5, 0.1)).equal(200);
    expect(alpha(mask, 0.05, 0.5)).equal(200);
  });

  it('draws a round brush on the label, whatever its proportion', () => {
    const dot = { aspect: 0.5, strokes: [{ hide: true, radius: 0.2, points: [0.5, 0.5] }] };
    // A fifth of the width is two fifths of the height of a label half as high as wide.
    expect(alpha(dot, 0.5, 0.5 - 0.3)).equal(0);
    expect(alpha(dot, 0.5 - 0.15, 0.5)).equal(0);
    expect(alpha(dot, 0.5 - 0.3, 0.5)).equal(200);
    expect(alpha(dot, 0.5, 0.5 - 0.45)).equal(200);
  });

  it('brings back what a later stroke says, and is a picture of its own', () => {
    const back = { hide: false, radius: 0.1, points: [0.5, 0.5] };
    expect(alpha({ aspect: 0.5, strokes: [hide, back] }, 0.5, 0.5)).equal(200);
    expect(alpha({ aspect: 0.5, strokes: [back, hide] }, 0.5, 0.5)).equal(0);
    const mask = { aspect: 0.5, strokes: [hide] };
    expect(pictureKey(source(mask))).not.equal(pictureKey({ ...source(mask), mask: undefined }));
  });

  it('lays repeated and moved art out under the mask as the texture transform would', () => {
    const halves = { width: 2, height: 1, data: Uint8Array.from([255, 0, 0, 255, 0, 0, 255, 255]) };
    const place = { offset: [0.25, 0] as [number, number], repeat: [20, 16] as [number, number], rotation: 0 };
    const { width, height, data } = makePicture(source({ aspect: 1, strokes: [], place }), halves);
    expect([width, height]).deep.equal([40, 16]);
    for (const x of [0, 7, 13, 39]) {
      const u = ((x + 0.5) / width) * 20 + 0.25;
      expect(data[x * 4], `column ${x}`).equal(u % 1 < 0.5 ? 255 : 0);
    }
  });

  it('lies on a slot, where its art is laid out once and shown as it is', () => {
    const carton = builtDocument('Box', newBuilder('carton'));
    const sheet = { id: 's', name: 'Art', width: 10, height: 10, picture: { ...source({ aspect: 1, strokes: [] }) } };
    delete sheet.picture.mask;
    const slot = newSlot('front', 'Front', 0, { repeat: [2, 2], mask: [hide] });
    const product: ProductDocument = {
      ...carton,
      ...{ sheets: [{ ...sheet, picture: { ...sheet.picture, asset: 'a'.repeat(64) } }], slots: [slot] },
      variants: [
        {
          ...carton.variants[0],
          fills: [{ slot: 'front', sheet: 's', look: { black: 0, white: 1, invert: false, tint: '#FFFFFF' } }],
        },
      ],
    };
    const [first] = shownParts(product, '', builtMeshes(modelKey(product))!);
    const use = first.finish.textures.baseColor!;
    expect(use.scale).deep.equal([1, 1]);
    expect(use.picture!.mask!.place!.repeat).deep.equal([2, 2]);
    expect(validateDocument('product', product).slots[0].mask).deep.equal([hide]);
    const bad = { ...product, slots: [{ ...slot, mask: [{ ...hide, radius: -1 }] }] };
    expect(() => validateDocument('product', bad)).throw(/Brush radius/);
  });
});

describe('product: a film on a screen', () => {
  const frames = ['a', 'b', 'c'].map((c) => c.repeat(64));
  const card = builtDocument('Screen', newBuilder('device'));
  const look = { black: 0, white: 1, invert: false, tint: '#FFFFFF' };
  const screen = card.slots[0];
  const product: ProductDocument = {
    ...card,
    sheets: [
      {
        ...{ id: 's', name: 'Film', width: 16, height: 9, film: frames },
        picture: { asset: frames[0], pattern: null, look: null, emboss: false },
      },
    ],
    variants: [{ ...card.variants[0], fills: [{ slot: screen.id, sheet: 's', look }] }],
  };
  const meshes = builtMeshes(modelKey(product))!;
  const shown = (frame: number): string | undefined =>
    shownParts(product, '', meshes, frame).find((p) => p.index === screen.part)!.finish.textures.baseColor?.picture
      ?.asset;

  it('shows one frame a frame, over and over', () => {
    expect([0, 1, 2, 3, 7].map(shown)).deep.equal([0, 1, 2, 0, 1].map((i) => frames[i]));
    expect(shown(1.5)).equal(frames[1]);
    expect(shown(-1)).equal(frames[2]);
    expect(shownParts(product, '', meshes, 4)).equal(shownParts(product, '', meshes, 1));
  });

  it('is refused when its frames are no stored files', () => {
    expect(validateDocument('product', product).sheets[0].film).deep.equal(frames);
    const bad = { ...product, sheets: [{ ...product.sheets[0], film: ['x'] }] };
    expect(() => validateDocument('product', bad)).throw(/Frame of a film/);
  });
});

describe('product: a variant carried to another product', () => {
  const jar = (): ProductDocument => builtDocument('Jar', TURNED_PRESETS.jar);
  let count = 0;
  const fresh = (kind: string): string => `${kind}-${++count}`;

  it('takes finishes, art and hidden parts along by name', () => {
    const from = jar();
    const label = from.parts.find((p) => p.name === 'Label')!;
    from.finishes.push({ ...from.finishes[0], id: 'pine', name: 'Pine green', baseColor: [0.1, 0.4, 0.2] });
    from.sheets.push({
      ...{ id: 's1', name: 'Pine', width: 100, height: 50 },
      picture: { asset: 'b'.repeat(64), pattern: null, look: null, emboss: false },
    });
    from.slots.push(newSlot('slot1', 'Front', label.index));
    from.variants.push({
      ...{ id: 'pine', name: 'Pine', hidden: [from.parts[0].index] },
      finishes: [{ part: label.index, finish: 'pine' }],
      fills: [{ slot: 'slot1', sheet: 's1', look: { black: 0, white: 1, invert: false, tint: '#FFFFFF' } }],
    });
    const { product, left } = carryVariant(from, 'pine', jar(), fresh);
    expect(left).deep.equal([]);
    const made = product.variants[1];
    expect(made.name).equal('Pine');
    const worn = made.finishes.find((f) => f.part === label.index)!;
    expect(findFinish(product, worn.finish)!.name).equal('Pine green');
    expect(made.hidden).deep.equal([from.parts[0].index]);
    expect(product.slots.find((s) => s.name === 'Front')!.part).equal(label.index);
    expect(product.sheets.find((s) => s.id === made.fills[0].sheet)!.name).equal('Pine');
    expect(made.fills[0].slot).equal(product.slots.find((s) => s.name === 'Front')!.id);

    const again = carryVariant(from, 'pine', product, fresh).product;
    expect(again.variants.map((v) => v.name)).deep.equal(['Standard', 'Pine', 'Pine 2']);
    expect([again.sheets.length, again.slots.length, again.finishes.length]).deep.equal([
      product.sheets.length,
      product.slots.length,
      product.finishes.length,
    ]);
    validateDocument('product', again);

    // A film that begins with the same picture is another sheet.
    from.sheets[from.sheets.length - 1].film = ['b'.repeat(64), 'c'.repeat(64)];
    const filmed = carryVariant(from, 'pine', again, fresh).product;
    expect(filmed.sheets.length).equal(again.sheets.length + 1);
    expect(filmed.sheets.at(-1)!.film).length(2);
  });

  it('names what the other product has no place for', () => {
    const box = builtDocument('Box', newBuilder('carton'));
    const { product, left } = carryVariant(jar(), '', box, fresh);
    expect(left).include('Label');
    expect(product.variants).length(2);
    validateDocument('product', product);
  });
});
