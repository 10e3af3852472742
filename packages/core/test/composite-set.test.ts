import { expect } from 'chai';
import { newLayer, newNull, newShot, type Layer } from '@tender-orbit/core/document';
import {
  cardInSet,
  compileLayers,
  defocusOf,
  gainOf,
  hiddenInSet,
  NOTHING,
  readLight,
  readLightParts,
  smallLight,
  spotOf,
  standsAt,
  writeLight,
  writeLightParts,
  type FrameDepths,
  type LightFrame,
  type LightParts,
  type SeenLayer,
  type StandsInSet,
} from '@tender-orbit/core/composite';
import { inverse, transformPoint, type Vec3 } from '@tender-orbit/core/geometry';
import { compile, evaluateMotion, frameSpace, type FrameSpace } from '@tender-orbit/core/scene';
import { at, composed, layer } from './composite-box.ts';
import { keysOf, movesSet, movesShot } from './moves-scene.ts';

/** A camera two metres before the middle, half a metre up, that looks straight along -Z, with a picture as high as it is far. */
const SPACE: FrameSpace = {
  camera: { eye: [0, 0.5, 2], right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1], focal: 1, shift: [0, 0] },
  ...{ shutter: 0, aperture: 0, focus: 2, things: { jar: { at: [0.1, 0, 0] } } },
};
const CARD: StandsInSet = {
  ...{ x: 0, y: 0, scale: 1, stretch: 1, rotation: 0, thing: '', azimuth: 0, distance: 0, lift: 0.5, metres: 1 },
  facing: true,
};
const spot = (card: StandsInSet, [u, v]: [number, number], space = SPACE): Vec3 => {
  const [a, b, c, d, e, f, g, h, i] = cardInSet(card, space);
  const w = g * u + h * v + i;
  return [(a * u + b * v + c) / w, (d * u + e * v + f) / w, w];
};
const near = (is: readonly number[], wanted: readonly number[]): void =>
  wanted.forEach((v, i) => expect(is[i]).closeTo(v, 1e-9));

describe('composite: cards in the set', () => {
  it('are seen where and as large as the camera sees such a place, and know how far away they are', () => {
    near(spot(CARD, [0, 0]), [0, 0, 2]);
    near(spot(CARD, [0.5, 0.5]), [0.25, 0.25, 2]);
    // Half way to the camera it is twice as large.
    near(spot({ ...CARD, distance: 1 }, [0.5, 0]), [0.5, 0, 1]);
    near(spot({ ...CARD, azimuth: 90, distance: 0.5 }, [0, 0]), [0.25, 0, 2]);
    near(spot({ ...CARD, azimuth: 180, distance: 2, lift: 1.5 }, [0, 0]), [0, 0.25, 4]);
    near(spot({ ...CARD, metres: 0.2, x: 1 }, [0, 0]), [0.1, 0, 2]);
  });

  it('go around a thing, face the camera or the world, and lie in the picture as the lens is shifted', () => {
    near(standsAt({ ...CARD, thing: 'jar', lift: 0.25 }, SPACE), [0.1, 0.25, 0]);
    near(standsAt({ ...CARD, thing: 'gone' }, SPACE), [0, 0.5, 0]);
    const beside: FrameSpace = {
      ...SPACE,
      camera: { ...SPACE.camera, eye: [2, 0.5, 0], right: [0, 0, -1], forward: [-1, 0, 0], shift: [0.1, -0.2] },
    };
    near(spot(CARD, [0.5, 0], beside), [0.15, 0.2, 2]);
    // From the side a card that faces +Z is a line, and leads away.
    const edge = spot({ ...CARD, facing: false }, [0.5, 0], beside);
    near(edge, [-0.1, 0.2, 1.5]);
    // Turned by a right angle it is seen from there in full.
    near(spot({ ...CARD, facing: false, turn: 90 }, [0.5, 0], beside), [0.15, 0.2, 2]);
  });

  it('are blurred as a thin lens blurs what is as far away', () => {
    const open: FrameSpace = { ...SPACE, aperture: 0.02, focus: 2 };
    expect(defocusOf(CARD, open)).equal(0);
    // A disc of radius r has the variance r²/4 along each axis.
    expect(defocusOf({ ...CARD, distance: 1 }, open)).closeTo((0.02 * Math.abs(1 / 2 - 1)) / 2, 1e-12);
    expect(defocusOf(CARD, SPACE)).equal(0);
  });
});

const [W, H] = [64, 32];
/** A frame of a product one metre away in its left half, the wall three metres away in the right; glass lets a quarter through. */
function frameOf(space: FrameSpace, covered = 1): LightFrame {
  const [depth, matte] = [new Float32Array(W * H), new Float32Array(W * H)];
  for (let i = 0; i < W * H; i++) {
    const [x, y] = [((i % W) + 0.5 - W / 2) / H, (H / 2 - Math.floor(i / W) - 0.5) / H];
    const long = Math.sqrt(1 + x * x + y * y);
    const product = i % W < W / 2;
    depth[i] = (product ? 1 : 3) * long;
    matte[i] = product ? covered : 0;
  }
  const ids = new Uint8Array(W * H * 2).fill(NOTHING);
  const covers = new Uint8Array(W * H * 2);
  for (let i = 0; i < W * H; i++) if (i % W < W / 2) [ids[i * 2], covers[i * 2]] = [1, 255];
  const depths: FrameDepths = { space, depth, things: ['wall', 'jar'], ids, covers };
  return { width: W, height: H, light: new Float32Array(W * H * 3).fill(0.2), matte, depths };
}
/** A white card as large as the picture, so far from the camera. */
const card = (away: number, values: Partial<Layer> = {}): Layer =>
  newLayer('shape', 'card', 'Card', {
    ...{ form: 'rectangle', colour: '#FFFFFF', width: 20, height: 20, inSet: true, metres: 1, lift: 0.5 },
    ...{ azimuth: away > 2 ? 180 : 0, distance: Math.abs(2 - away), facing: true, softness: 0.0001, ...values },
  } as Partial<Layer>);
const overTake = (layers: Layer[], frame: LightFrame, take: Layer = layer('take')): ReturnType<typeof composed> =>
  composed(compileLayers({ ...newShot('S', 'set', 'hero', 24), layers: [take, ...layers] }).at(0), {
    ...{ width: W, height: H, take: () => frame },
  });
const reds = (picture: ReturnType<typeof composed>): number[] => [at(picture, 8, 16)[0], at(picture, 56, 16)[0]];

describe('composite: where things are in a frame', () => {
  it('is what the camera of that frame sees, nulls and moving things at both ends of the shutter among it', () => {
    const set = movesSet();
    set.cameras[0].shutter = 180;
    set.cameras[0].shiftY = 0.1;
    set.nulls = [newNull('way', 'Way', [0.3, 0.2, 0.1])];
    const keys = keysOf([0, 0], [24, 0.24]);
    const shot = movesShot({
      tracks: [
        { thing: 'way', path: 'position.0', keys },
        { thing: 'hero', path: 'position.1', keys: keysOf([0, 0.2], [24, 0.44]) },
      ],
    });
    const program = compile(set, shot);
    const tableau = evaluateMotion(program, 12, { products: new Map(), meshes: () => undefined, aspect: 2 });
    const space = frameSpace(program, 12, tableau);
    near(space.things.way.at, [0.12, 0.2, 0.1]);
    near(space.things.way.close!, [0.125, 0.2, 0.1]);
    near(space.camera.eye, [0, 0.32, 1]);
    near(space.closing!.eye, [0, 0.325, 1]);
    expect(space.shutter).equal(0.5);
    const { camera } = tableau;
    const [x, y, z] = transformPoint(inverse(camera.matrix), [0.12, 0.2, 0.1]);
    const high = Math.tan(camera.verticalFov / 2) * 2;
    near(spotOf([0.12, 0.2, 0.1], space)!, [x / -z / high, y / -z / high - camera.shift[1] / 2]);
    expect(spotOf([0, 0.2, 2], space)).equal(null);
  });
});

describe('composite: what is nearer hides a card', () => {
  const under = 124;
  it('before all it is seen whole, between product and wall beside the product, behind the wall not at all', () => {
    expect(reds(overTake([card(0.5)], frameOf(SPACE)))).deep.equal([255, 255]);
    expect(reds(overTake([card(2)], frameOf(SPACE)))).deep.equal([under, 255]);
    expect(reds(overTake([card(4)], frameOf(SPACE)))).deep.equal([under, under]);
  });

  it('through glass it is seen as much as that lets through', () => {
    const hidden = hiddenInSet(frameOf(SPACE, 0.75), cardInSet(card(2) as StandsInSet, SPACE));
    expect(hidden[16 * W + 8]).closeTo(0.75, 1e-6);
    expect(hidden[16 * W + 56]).equal(0);
    expect(hiddenInSet(frameOf(SPACE, 0.75), cardInSet(card(0.5) as StandsInSet, SPACE))[16 * W + 8]).equal(0);
  });

  it('pixels that a product covers in part let the rest of the card be seen, whatever their mean depth', () => {
    const frame = frameOf(SPACE);
    // The product's edge runs through this column: its depth is a mean that neither has.
    for (let y = 0; y < H; y++) {
      frame.matte[y * W + 32] = 0.3;
      frame.depths!.depth[y * W + 32] = 2.4;
    }
    const hidden = hiddenInSet(frame, cardInSet(card(2) as StandsInSet, SPACE));
    for (let y = 3; y < H - 3; y++) expect(hidden[y * W + 32]).closeTo(0.3, 1e-6);
    const before = hiddenInSet(frame, cardInSet(card(0.8) as StandsInSet, SPACE));
    for (let y = 3; y < H - 3; y++) expect(before[y * W + 32]).equal(0);
  });

  it('is worked out for some pixels as for all', () => {
    const frame = frameOf(SPACE, 0.75);
    const seen = cardInSet(card(2) as StandsInSet, SPACE);
    const whole = hiddenInSet(frame, seen);
    const box = { left: 5, right: 40, top: 3, bottom: 20 };
    hiddenInSet(frame, seen, box).forEach((v, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      const within = x >= box.left && x < box.right && y >= box.top && y < box.bottom;
      expect(v).equal(within ? whole[i] : 0);
    });
  });

  it('a take that is put in its place by a layer hides what one at rest hides', () => {
    // Moved by less than is seen, but moved: the long way.
    const [still, moved] = [0, 1e-6].map((x) => overTake([card(2)], frameOf(SPACE, 0.75), layer('take', { x })));
    for (let y = 2; y < H - 2; y++)
      for (let x = 2; x < W - 2; x++)
        at(still, x, y).forEach((v, c) => expect(Math.abs(v - at(moved, x, y)[c])).most(1));
  });

  it('a card that cuts through a surface ends there softly', () => {
    // Seen from above a slope: the wall’s depth falls towards the bottom.
    const frame = frameOf(SPACE, 0);
    frame.matte.fill(0);
    for (let i = 0; i < W * H; i++) frame.depths!.depth[i] *= 1 + (H / 2 - Math.floor(i / W)) / (4 * H);
    const hidden = hiddenInSet(frame, cardInSet(card(3) as StandsInSet, SPACE));
    const column = Array.from({ length: H }, (_, y) => hidden[y * W + 48]);
    expect(column[2]).equal(0);
    expect(column[H - 3]).equal(1);
    expect(column.filter((v) => v > 0.02 && v < 0.98).length).within(1, 3);
    for (let y = 1; y < H; y++) expect(column[y]).at.least(column[y - 1] - 1e-6);
  });

  it('what goes along with a card is hidden as the card is', () => {
    const carried = (away: number): Layer[] => [
      { ...card(away), kind: 'null', id: 'n' } as Layer,
      newLayer('shape', 'child', 'Child', {
        ...{ form: 'rectangle', colour: '#FFFFFF', width: 20, height: 20, parent: 'n', softness: 0.0001 },
      } as Partial<Layer>),
    ];
    expect(reds(overTake(carried(2), frameOf(SPACE)))).deep.equal([under, 255]);
    expect(reds(overTake(carried(0.5), frameOf(SPACE)))).deep.equal([255, 255]);
  });

  it('the take moved in the picture takes its cards along, and a take without depths has none', () => {
    const moved = compileLayers({
      ...newShot('S', 'set', 'hero', 24),
      layers: [newLayer('take', 't', 'T', { x: 0.5 }), card(0.5, { width: 0.2, height: 0.2 } as Partial<Layer>)],
    }).at(0);
    const picture = composed(moved, { width: W, height: H, take: () => frameOf(SPACE) });
    expect(at(picture, 48, 16)[0]).equal(255);
    expect(at(picture, 40, 16)[0]).closeTo(under, 1);
    const bare = frameOf(SPACE);
    delete bare.depths;
    expect(reds(overTake([card(0.5)], bare))).deep.equal([under, under]);
  });

  it('moving while the shutter is open it is drawn out over its way, with as much light', () => {
    const space: FrameSpace = { ...SPACE, shutter: 1 };
    const frame = frameOf(space, 0);
    frame.depths!.depth.fill(5);
    const still = card(2, { width: 0.9, height: 0.9, azimuth: 90 } as Partial<Layer>);
    const later: Layer = { ...still, distance: 0.5 };
    const sum = (layers: SeenLayer[]): number => {
      const { data } = composed(layers, { width: W, height: H, take: () => frame, view: 'plain' });
      let all = 0;
      for (let i = 0; i < data.length; i += 4) all += ((data[i] / 255 + 0.055) / 1.055) ** 2.4;
      return all;
    };
    const none = sum([layer('take')]);
    const one = sum([layer('take'), still]) - none;
    const drawn = sum([layer('take'), { ...still, later } as SeenLayer]) - none;
    expect(drawn / one).closeTo(1, 0.03);
    const { data } = composed([layer('take'), { ...still, later } as SeenLayer], {
      width: W,
      height: H,
      take: () => frame,
    });
    // Nowhere as bright as at rest, where it would be seen at both ends.
    expect(data[(16 * W + 26) * 4]).within(under + 5, 250);
    expect(data[(16 * W + 46) * 4]).within(under + 5, 250);
  });

  it('a mask may be what the take saw of a thing', () => {
    const masked = newLayer('solid', 's', 'S', {
      ...{ colour: '#FFFFFF', mask: 'thing', maskThing: 'jar' },
    } as Partial<Layer>);
    expect(reds(overTake([masked], frameOf(SPACE)))).deep.equal([255, under]);
    expect(reds(overTake([{ ...masked, maskInverted: true }], frameOf(SPACE)))).deep.equal([under, 255]);
    expect(reds(overTake([{ ...masked, maskThing: 'gone' }], frameOf(SPACE)))).deep.equal([under, under]);
  });

  it('or of a finish, by its name; a take that does not keep them shows none', () => {
    const frame = frameOf(SPACE);
    const { ids, covers } = frame.depths!;
    frame.depths!.finishes = { names: ['Paint', 'Glass'], ids, covers };
    const masked = newLayer('solid', 's', 'S', {
      ...{ colour: '#FFFFFF', mask: 'finish', maskFinish: 'Glass' },
    } as Partial<Layer>);
    expect(reds(overTake([masked], frame))).deep.equal([255, under]);
    expect(reds(overTake([{ ...masked, maskInverted: true }], frame))).deep.equal([under, 255]);
    for (const [of, kept] of [
      [{ ...masked, maskFinish: 'Brass' }, frame],
      [{ ...masked, maskFinish: undefined }, frame],
      [masked, frameOf(SPACE)],
    ] as const)
      expect(reds(overTake([of], kept))).deep.equal([under, under]);
  });

  it('a mask goes along with a thing in the picture', () => {
    const space: FrameSpace = { ...SPACE, things: { jar: { at: [1, 0.5, 0] } } };
    const masked = newLayer('solid', 's', 'S', {
      ...{ colour: '#FFFFFF', mask: 'ellipse', maskWidth: 0.2, maskHeight: 0.2, feather: 0.001, maskThing: 'jar' },
    } as Partial<Layer>);
    const picture = overTake([masked], frameOf(space));
    expect(at(picture, 48, 16)[0]).equal(255);
    expect(at(picture, 32, 16)[0]).closeTo(under, 1);
  });
});

describe('composite: light by light', () => {
  const parts: LightParts = {
    ...{ width: W, height: H },
    parts: [
      { light: 'key', data: new Float32Array(W * H * 3).fill(0.15) },
      { light: 'rim', data: new Float32Array(W * H * 3).fill(0.05) },
    ],
  };
  const fader = (light: string, values: Partial<Layer>): Layer =>
    newLayer('fader', `f-${light}`, light, { light, group: 'take', ...values } as Partial<Layer>);
  const mixed = (faders: Layer[], known: LightParts | null = parts): number[] => {
    const layers = compileLayers({ ...newShot('S', 'set', 'hero', 24), layers: [layer('take'), ...faders] }).at(0);
    const take = (): LightFrame => frameOf(SPACE);
    const picture = composed(layers, { width: W, height: H, take, parts: () => known, view: 'plain' });
    return at(picture, 8, 8)
      .slice(0, 3)
      .map((v) => ((v / 255 + 0.055) / 1.055) ** 2.4);
  };
  const close = (is: number[], wanted: number[]): void => wanted.forEach((v, i) => expect(is[i]).closeTo(v, 0.003));

  it('what no fader touches is the take, and each changes its light alone, in its colour', () => {
    close(mixed([]), [0.2, 0.2, 0.2]);
    close(mixed([fader('key', { level: 0 } as Partial<Layer>)]), [0.05, 0.05, 0.05]);
    close(mixed([fader('key', { level: 2 } as Partial<Layer>)]), [0.35, 0.35, 0.35]);
    close(mixed([fader('rim', { visible: false })]), [0.15, 0.15, 0.15]);
    close(mixed([fader('key', { colour: '#FF0000' } as Partial<Layer>)]), [0.2, 0.05, 0.05]);
    // Off and all the way up together.
    const both = [fader('key', { visible: false }), fader('rim', { level: 4 } as Partial<Layer>)];
    close(mixed(both), [0.2, 0.2, 0.2]);
    expect(gainOf(newLayer('fader', 'f', 'F') as never)).deep.equal([0, 0, 0]);
  });

  it('a take that does not keep its lights stays as it is', () => {
    close(mixed([fader('key', { level: 0 } as Partial<Layer>)], null), [0.2, 0.2, 0.2]);
    close(mixed([fader('gone', { level: 0 } as Partial<Layer>)]), [0.2, 0.2, 0.2]);
  });
});

describe('composite: frames with depths and lights as bytes', () => {
  it('come back with camera, things, depths and covers; lights within a step', () => {
    const frame = frameOf(SPACE, 0.5);
    const back = readLight(writeLight(frame));
    expect(back.depths!.space).deep.equal(SPACE);
    expect(back.depths!.things).deep.equal(['wall', 'jar']);
    expect(back.depths!.ids).deep.equal(frame.depths!.ids);
    expect(back.depths!.covers).deep.equal(frame.depths!.covers);
    frame.depths!.depth.forEach((v, i) => expect(back.depths!.depth[i]).closeTo(v, v * 1.4e-3));
    expect(back.depths).not.property('finishes');
    const finishes = {
      names: ['Glass', 'Brass'],
      ids: frame.depths!.ids.map((v) => 1 - (v & 1)),
      covers: frame.depths!.covers,
    };
    const kept = { ...frame, depths: { ...frame.depths!, finishes } };
    expect(readLight(writeLight(kept)).depths!.finishes).deep.equal(finishes);
    expect(() => readLight(writeLight(kept).subarray(0, -2))).throw(/cannot be read/);
    expect(smallLight(kept, W, H)).equal(kept);
    expect(smallLight(kept, W / 2, H / 2).depths!.finishes!.ids).length((W * H) / 2);
    const parts: LightParts = {
      width: 2,
      height: 1,
      parts: [{ light: 'key', data: Float32Array.of(0, 1, 2, 3, 4, 5) }],
    };
    const lights = readLightParts(writeLightParts(parts));
    expect(lights.parts[0].light).equal('key');
    lights.parts[0].data.forEach((v, i) => expect(v).closeTo(i, i * 1.4e-3));
  });

  it('what is cut off or something else is told', () => {
    const bytes = writeLight(frameOf(SPACE));
    expect(() => readLight(bytes.subarray(0, bytes.length - 1))).throw(/cannot be read/);
    expect(() => readLightParts(bytes)).throw(/cannot be read/);
    expect(() => readLightParts(new Uint8Array(3))).throw(/cannot be read/);
    const parts = writeLightParts({ width: 2, height: 1, parts: [{ light: 'key', data: new Float32Array(6) }] });
    expect(() => readLightParts(parts.subarray(0, parts.length - 2))).throw(/cannot be read/);
  });

  it('light of the first version, without depths, is still read', () => {
    const old = writeLight({ ...frameOf(SPACE), depths: undefined });
    // Version 1 had no length of what is known of depth.
    const first = new Uint8Array(old.length - 4);
    first.set(old.subarray(0, 16));
    first.set(old.subarray(20), 16);
    new DataView(first.buffer).setUint32(4, 1, true);
    const back = readLight(first);
    expect(back.depths).equal(undefined);
    expect(back.light[0]).closeTo(0.2, 3e-4);
  });
});
