import { expect } from 'chai';
import {
  newSet,
  newLayer,
  newShot,
  validateDocument,
  type Layer,
  type LayerOf,
  type ShotDocument,
  type Track,
} from '@tender-orbit/core/document';
import { canTrace, cardInSet, tracedCard } from '@tender-orbit/core/composite';
import { compile, evaluate, frameSpace, type FrameSpace } from '@tender-orbit/core/scene';

const ASSET = 'a'.repeat(64);
const still = (values: Partial<LayerOf<'still'>> = {}): LayerOf<'still'> =>
  newLayer('still', 'leaf', 'Leaf', {
    ...{ asset: ASSET, inSet: true, metres: 0.2, height: 0.5, distance: 0.3, lift: 0.1 },
    ...values,
  } as Partial<Layer>) as LayerOf<'still'>;
const orbit = (): Track[] => [
  {
    ...{ thing: 'leaf', path: 'azimuth' },
    keys: [
      { frame: 0, value: 0, ease: 'linear' },
      { frame: 240, value: 180, ease: 'linear' },
    ],
  },
];

describe('composite: a layer that is traced in the set', () => {
  const set = newSet('Set');
  const camera = set.cameras[0].id;
  const shotOf = (layer: Layer, tracks: Track[] = []): ShotDocument => ({
    ...newShot('S', 'set', camera, 241),
    ...{ layers: [layer], tracks },
  });
  const context = { products: new Map(), meshes: () => undefined, aspect: 16 / 9 };
  const space = (shot: ShotDocument) => {
    const program = compile(set, shot);
    return (frame: number): FrameSpace => frameSpace(program, frame, evaluate(program, frame, context));
  };

  it('is as large as it was, shows its picture cut out by its alpha, and looks at the camera', () => {
    const layer = still({ scale: 2, stretch: 0.5 });
    const shot = shotOf(layer);
    const { surface, tracks } = tracedCard(shot, layer, 1.5, 'card', space(shot));
    expect([surface.width, surface.height].map((v) => Number(v.toFixed(6)))).deep.equal([0.15, 0.2]);
    expect(surface.position.map((v) => Number(v.toFixed(6)))).deep.equal([0, 0.1, 0.3]);
    expect(surface.finish).contain({ alphaMode: 'blend', doubleSided: true });
    expect(surface.finish!.textures.baseColor!.picture!.asset).equal(ASSET);
    expect(surface.rayVisibility).deep.equal({ camera: true, reflections: true, shadows: true, lighting: true });
    expect(tracks).deep.equal([]);
    const { forward } = space(shot)(0).camera;
    surface.aim.forEach((v, i) => expect(v - surface.position[i]).closeTo(-forward[i], 1e-9));
    expect(
      validateDocument('set', JSON.parse(JSON.stringify({ ...set, surfaces: [...set.surfaces, surface] }))).surfaces,
    ).length(set.surfaces.length + 1);
  });

  it('lies in the picture where the layer did, in every frame of its way', () => {
    const layer = still({ x: 0.2, y: 0.1, anchorX: 0.1, facing: false, turn: 30, tilt: 10 });
    const shot = shotOf(layer, orbit());
    const spaceAt = space(shot);
    const { surface, tracks } = tracedCard(shot, layer, 1, 'card', spaceAt);
    // A half circle needs fewer keys than it has frames.
    const across = tracks.find((t) => t.path === 'position.0')!;
    expect(across.keys.length).within(4, 130);
    const traced: ShotDocument = { ...shot, layers: [], tracks };
    const program = compile({ ...set, surfaces: [...set.surfaces, surface] }, traced);
    for (const frame of [0, 51, 113, 240]) {
      const at = evaluate(program, frame, context).surfaces.find((s) => s.id === 'card')!.matrix;
      const now = { ...layer, azimuth: (frame * 180) / 240 };
      const { camera: eye } = spaceAt(frame);
      const m = cardInSet(now, spaceAt(frame));
      const way = [at[12] - eye.eye[0], at[13] - eye.eye[1], at[14] - eye.eye[2]];
      const seen = (axis: readonly number[]): number => way.reduce((sum, v, i) => sum + v * axis[i], 0);
      const away = seen(eye.forward);
      expect((eye.focal * seen(eye.right)) / away - eye.shift[0], `across at ${frame}`).closeTo(m[2] / m[8], 2e-3);
      expect((eye.focal * seen(eye.up)) / away - eye.shift[1], `up at ${frame}`).closeTo(m[5] / m[8], 2e-3);
    }
  });

  for (const facing of [true, false])
    it(`has its corners where the layer’s were as that turns ${facing ? 'before the camera' : 'in the world'}`, () => {
      const layer = still({ facing, rotation: 25, turn: 30, tilt: -20, scale: 1.5, stretch: 0.7 });
      const turning: Track = {
        ...{ thing: 'leaf', path: 'rotation' },
        keys: [
          { frame: 0, value: 25, ease: 'linear' },
          { frame: 240, value: 565, ease: 'linear' },
        ],
      };
      const shot = shotOf(layer, [...orbit(), turning]);
      const spaceAt = space(shot);
      const { surface, tracks } = tracedCard(shot, layer, 1, 'card', spaceAt);
      const traced: ShotDocument = { ...shot, layers: [], tracks };
      const program = compile({ ...set, surfaces: [...set.surfaces, surface] }, traced);
      for (const frame of [0, 37, 120, 199, 240]) {
        const at = evaluate(program, frame, context).surfaces.find((s) => s.id === 'card')!.matrix;
        const now = { ...layer, azimuth: (frame * 180) / 240, rotation: 25 + (frame * 540) / 240 };
        const { camera: eye } = spaceAt(frame);
        const m = cardInSet(now, spaceAt(frame));
        for (const [u, v] of [
          [0.5, 0.5],
          [-0.5, 0.5],
          [0.5, -0.5],
        ]) {
          const own = [u * layer.height, v * layer.height];
          const w = m[6] * own[0] + m[7] * own[1] + m[8];
          const want = [0, 3].map((row) => (m[row] * own[0] + m[row + 1] * own[1] + m[row + 2]) / w);
          // Seen from its face a card's own across goes to the left.
          const way = [0, 1, 2].map(
            (i) => at[12 + i] - u * surface.width * at[i] + v * surface.height * at[4 + i] - eye.eye[i],
          );
          const seen = (axis: readonly number[]): number => way.reduce((sum, x, i) => sum + x * axis[i], 0);
          const away = seen(eye.forward);
          const got = [seen(eye.right), seen(eye.up)].map((x, i) => (eye.focal * x) / away - eye.shift[i]);
          got.forEach((x, i) => expect(x, `corner ${u} ${v} at ${frame}`).closeTo(want[i], 3e-3));
        }
      }
      // One and a half turns go on: no angle jumps back by a whole one.
      const rolls = tracks.find((t) => t.path === 'roll')!.keys.map((k) => k.value as number);
      expect(Math.abs(rolls.at(-1)! - rolls[0])).above(360);
    });

  it('is there for its span alone; colours are cards of their colour, and only flat ones can be', () => {
    const layer = newLayer('shape', 'panel', 'Panel', {
      ...{ form: 'rectangle', width: 0.4, height: 0.2, colour: '#FF0000', inSet: true, metres: 1, start: 4, length: 6 },
      opacity: 0.5,
    } as Partial<Layer>);
    const shot = shotOf(layer);
    const { surface, tracks } = tracedCard(shot, layer, 1, 'card', space(shot));
    expect([surface.width, surface.height, surface.colour]).deep.equal([0.4, 0.2, '#FF0000']);
    expect(surface.finish).contain({ alpha: 0.5, alphaMode: 'blend' });
    expect(tracks.map((t) => [t.path, t.keys.map((k) => [k.frame, k.value])])).deep.equal([
      [
        'visible',
        [
          [0, false],
          [4, true],
          [10, false],
        ],
      ],
    ]);
    expect(canTrace(layer)).equal(true);
    expect(canTrace({ ...layer, inSet: false })).equal(false);
    expect(canTrace({ ...layer, form: 'star' } as Layer)).equal(false);
    expect(canTrace(newLayer('text', 't', 'T', { inSet: true }))).equal(false);
  });
});
