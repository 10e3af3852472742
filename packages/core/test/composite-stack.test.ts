import { expect } from 'chai';
import {
  addLayer,
  deleteLayer,
  duplicateLayer,
  groupLayers,
  keyValue,
  newLayer,
  newShot,
  orderLayers,
  runCommand,
  ungroupLayer,
  type Layer,
  type MaskPoint,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { compileLayers, drawnWith, homographyOf, maskPointsAt, placeOf } from '@tender-orbit/core/composite';
import { at, composed } from './composite-box.ts';

/** Layers of a shot at a frame, each called by its id. */
const seen = (layers: Layer[], frame = 0) => compileLayers({ ...newShot('S', 'set', 'hero', 24), layers }).at(frame);
const solid = (id: string, colour: string, values: Partial<Layer> = {}): Layer =>
  newLayer('solid', id, id, { colour, space: 'glass', ...values } as Partial<Layer>);
const box = (id: string, colour: string, values: Partial<Layer> = {}): Layer =>
  newLayer('shape', id, id, {
    ...{ form: 'rectangle', width: 0.5, height: 0.5, colour, space: 'glass', softness: 0.0001 },
    ...values,
  } as Partial<Layer>);
const SIZE = { width: 80, height: 40 };
const drawn = (layers: Layer[], frame = 0) => composed(seen(layers, frame), { ...SIZE, frame });
const red = (picture: ReturnType<typeof drawn>, x: number, y: number): number => at(picture, x, y)[0];

describe('composite: groups', () => {
  it('are laid over each other first, so that opacity takes them as a whole', () => {
    const group = newLayer('group', 'g', 'G', { space: 'glass', opacity: 0.5 });
    const members = [box('a', '#FF0000', { group: 'g' }), box('b', '#FF0000', { group: 'g' })];
    const [r] = at(drawn([solid('s', '#000000'), ...members, group]), 40, 20);
    expect(r).closeTo(128, 1);
    // Apart, each would let half of the other through.
    const apart = members.map((m): Layer => ({ ...m, group: '', opacity: 0.5 }));
    expect(red(drawn([solid('s', '#000000'), ...apart]), 40, 20)).closeTo(191, 1);
  });

  it('a grade in a group changes what the group holds alone', () => {
    const group = newLayer('group', 'g', 'G', { space: 'glass' });
    const grade = newLayer('grade', 'd', 'D', { group: 'g', space: 'glass', exposure: -10 } as Partial<Layer>);
    const picture = drawn([solid('s', '#808080'), box('a', '#FFFFFF', { group: 'g' }), grade, group]);
    expect(red(picture, 40, 20)).below(4);
    expect(red(picture, 2, 2)).closeTo(128, 1);
  });

  it('are moved, turned in space and hidden with all they hold, and groups may lie in groups', () => {
    const outer = newLayer('group', 'o', 'O', { space: 'glass', x: 0.5 });
    const inner = newLayer('group', 'g', 'G', { space: 'glass', group: 'o', y: 0.25 });
    const list = [box('a', '#FF0000', { group: 'g', width: 0.25, height: 0.25 }), inner, outer];
    const picture = drawn(list);
    expect(red(picture, 60, 10)).above(250);
    expect(red(picture, 40, 20)).equal(0);
    expect(red(drawn(list.map((l) => (l.id === 'o' ? { ...l, visible: false } : l))), 60, 10)).equal(0);
  });

  it('a ring of groups, and a group that is gone, count as none', () => {
    const ring = [
      newLayer('group', 'p', 'P', { group: 'q' }),
      newLayer('group', 'q', 'Q', { group: 'p' }),
      box('a', '#FF0000', { group: 'p' }),
      box('b', '#FF0000', { group: 'gone' }),
    ];
    const list = seen(ring);
    expect(list.map((l) => l.group)).deep.equal(['', '', 'p', '']);
    expect(() => drawn(ring)).not.throw();
  });
});

describe('composite: clips, parents and mattes', () => {
  it('what is clipped is seen only where the layer below it is, and goes with it', () => {
    const base = box('a', '#00FF00');
    const clip = solid('c', '#FF0000', { clip: true });
    const picture = drawn([solid('s', '#000000'), base, clip]);
    expect(at(picture, 40, 20).slice(0, 2)).deep.equal([255, 0]);
    expect(red(picture, 5, 5)).equal(0);
    const hidden = drawn([solid('s', '#0000FF'), { ...base, visible: false }, clip]);
    expect(at(hidden, 40, 20).slice(0, 3)).deep.equal([0, 0, 255]);
    // A grade that is clipped has the layer below it as its scope.
    const grade = newLayer('grade', 'd', 'D', { clip: true, space: 'glass', exposure: -12 } as Partial<Layer>);
    const graded = drawn([solid('s', '#808080'), base, grade]);
    expect(at(graded, 40, 20)[1]).below(3);
    expect(at(graded, 5, 5)[1]).closeTo(128, 1);
  });

  it('a child goes along with its parent, a null too, by the product of their places', () => {
    const parent = { x: 0.3, y: -0.1, rotation: 30, scale: 1.5, stretch: 1 };
    const child = { x: 0.2, y: 0.1, rotation: -10, scale: 0.5, stretch: 1 };
    const place = placeOf(child, 400, 200, homographyOf(parent));
    // The child's own middle: by hand, turned and scaled in the parent, then moved.
    const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const [x, y] = [0.3 + 1.5 * (c * 0.2 - s * 0.1), -0.1 + 1.5 * (s * 0.2 + c * 0.1)];
    const [px, py] = [200 + x * 200, 100 - y * 200];
    const w = place.g * px + place.h * py + place.i;
    expect((place.a * px + place.b * py + place.c) / w).closeTo(0, 1e-9);
    expect((place.d * px + place.e * py + place.f) / w).closeTo(0, 1e-9);
    const carrier = newLayer('null', 'n', 'N', { x: 0.5, visible: false });
    expect(red(drawn([carrier, box('a', '#FF0000', { parent: 'n', width: 0.2, height: 0.2 })]), 60, 20)).above(250);
    const ring = [box('a', '#FF0000', { parent: 'b' }), box('b', '#FF0000', { parent: 'a' })];
    expect(seen(ring).every((l) => !l.carriers?.length)).equal(true);
  });

  it('turns and grows about its anchor, which lies at its place, and leans by its skew', () => {
    const place = placeOf({ ...ZERO, x: 0.1, rotation: 90, anchorX: 0.25, anchorY: 0 }, 200, 100);
    const own = (px: number, py: number): number[] => [
      place.a * px + place.b * py + place.c,
      place.d * px + place.e * py + place.f,
    ];
    own(110, 50).forEach((v, i) => expect(v).closeTo([0.25, 0][i], 1e-9));
    const leaning = placeOf({ ...ZERO, skew: 45 }, 200, 100);
    // One up goes one across.
    expect(leaning.a * 120 + leaning.b * 30 + leaning.c).closeTo(0, 1e-9);
  });

  it('a matte lets be seen what another layer is, by alpha or brightness, inverted or not, seen itself or not', () => {
    const matte = box('m', '#808080', { visible: false });
    const of = (form: Layer['matte']): number[] => {
      const picture = drawn([matte, solid('s', '#FF0000', { matte: form, matteLayer: 'm' })]);
      return [red(picture, 40, 20), red(picture, 3, 3)];
    };
    expect(of('alpha')).deep.equal([255, 0]);
    expect(of('alpha inverted')).deep.equal([0, 255]);
    expect(of('luma')).deep.equal([128, 0]);
    expect(of('luma inverted')).deep.equal([127, 255]);
  });
});

const ZERO = { x: 0, y: 0, scale: 1, stretch: 1, rotation: 0 };

describe('composite: masks', () => {
  const ROUND = 0.5523;
  const circle = (radius: number, feather = 0): MaskPoint[] =>
    (
      [
        [0, 1],
        [1, 0],
        [0, -1],
        [-1, 0],
      ] as const
    ).map(([x, y]) => ({
      at: [x * radius, y * radius],
      in: [-y * radius * ROUND, x * radius * ROUND],
      out: [y * radius * ROUND, -x * radius * ROUND],
      feather,
    }));
  const area = (values: Partial<Layer>, frame = 0): number => {
    const size = { width: 300, height: 200 };
    const list = seen([solid('s', '#FFFFFF', { mask: 'path', feather: 0, ...values })], frame);
    const { data } = composed(list, { ...size, frame });
    let sum = 0;
    for (let i = 0; i < data.length; i += 4) sum += data[i] / 255;
    return sum / (size.height * size.height);
  };

  it('a drawn circle covers what a circle does, grown by its expansion, soft about its edge', () => {
    const maskPath = [{ frame: 0, points: circle(0.3) }];
    expect(area({ maskPath })).closeTo(Math.PI * 0.09, 0.001);
    expect(area({ maskPath, maskGrow: 0.1 })).closeTo(Math.PI * 0.16, 0.002);
    // As much is lost inside as is gained outside, but for the edge's roundness.
    expect(area({ maskPath, feather: 0.1 })).closeTo(Math.PI * 0.09, 0.004);
    // Wider than the picture's tiles, it is worked out at fewer places.
    expect(area({ maskPath, feather: 0.3 })).closeTo(
      area({ maskPath: [{ frame: 0, points: circle(0.3, 1e-9) }], feather: 0.3 }),
      1e-4,
    );
    expect(area({ maskPath, maskInverted: true })).closeTo(1.5 - Math.PI * 0.09, 0.001);
  });

  it('feather may differ from point to point', () => {
    const points = circle(0.3).map((p, i) => ({ ...p, feather: i === 1 ? 0.3 : 0 }));
    const { data } = composed(
      seen([solid('s', '#FFFFFF', { mask: 'path', feather: 0, maskPath: [{ frame: 0, points }] })]),
      { width: 300, height: 200 },
    );
    const partly = (x: number): number => data[(100 * 300 + x) * 4];
    // Right of the edge at 0.3 heights it is soft, left it is not.
    expect(partly(150 + 70)).within(20, 200);
    expect(partly(150 - 70)).equal(0);
  });

  it('changes evenly between its shapes, and keeps the earlier one where their points differ in number', () => {
    const shapes = [
      { frame: 0, points: circle(0.1) },
      { frame: 10, points: circle(0.3) },
    ];
    expect(maskPointsAt(shapes, 5)[1].at[0]).closeTo(0.2, 1e-12);
    expect(maskPointsAt(shapes, -4)).equal(shapes[0].points);
    expect(maskPointsAt(shapes, 40)).equal(shapes[1].points);
    expect(area({ maskPath: shapes }, 5)).closeTo(Math.PI * 0.04, 0.001);
    const other = [shapes[0], { frame: 10, points: circle(0.3).slice(0, 3) }];
    expect(maskPointsAt(other, 9)).equal(shapes[0].points);
  });
});

describe('composite: shadows and reflections', () => {
  it('a shadow falls beside what casts it, as strong as it is said to be, and a mask does not cut it off', () => {
    const values = { shadow: 0.5, shadowX: 0.4, shadowY: 0, shadowBlur: 0, shadowColour: '#000000' };
    const cast = box('a', '#FF0000', { ...values, width: 0.25, height: 0.25 });
    expect(red(drawn([solid('s', '#FFFFFF'), cast]), 56, 20)).closeTo(128, 1);
    const masked = { ...cast, mask: 'rectangle', maskWidth: 0.1, maskHeight: 1, feather: 0.0001 } as Layer;
    const picture = drawn([solid('s', '#FFFFFF'), masked]);
    expect(red(picture, 56, 20)).closeTo(128, 1);
    expect(red(picture, 59, 20)).equal(255);
  });

  it('a reflection is the layer upside down below its lowest edge, and fades out', () => {
    const cast = box('a', '#FF0000', { y: 0.2, mirror: 1, mirrorBlur: 0, mirrorFall: 0.5, width: 0.5, height: 0.4 });
    const picture = drawn([solid('s', '#000000'), cast]);
    // Its lower edge is the picture's middle.
    const column = [20, 24, 28, 32].map((y) => red(picture, 40, y));
    column.forEach((v, i) => expect(v).closeTo(255 * (1 - (i * 4 + 0.5) / 20) ** 2, 2));
    expect(red(picture, 40, 39)).equal(0);
  });

  it('a contact shadow lies under its lowest edge, darkest in the middle', () => {
    const cast = box('a', '#FF0000', { y: 0.2, contact: 1, width: 1, height: 0.4, shadowColour: '#000000' });
    const picture = drawn([solid('s', '#FFFFFF'), cast]);
    expect(red(picture, 40, 20)).below(20);
    expect(red(picture, 40, 23)).above(red(picture, 40, 20));
    expect(red(picture, 2, 20)).equal(255);
  });
});

describe('composite: the stack', () => {
  const run = (shot: ShotDocument, ...commands: Array<Parameters<typeof runCommand<ShotDocument>>[1]>): ShotDocument =>
    commands.reduce((now, command) => runCommand(now, command), shot);
  const made = run(
    newShot('S', 'set', 'hero', 24),
    ...['a', 'b', 'c', 'd'].map((id) => addLayer(solid(id, '#FF0000'))),
  );
  const ids = ({ layers }: ShotDocument): string[] => layers.map((l) => l.id);

  it('groups what is asked for where the highest of it stands, ungroups it, and undoes by itself', () => {
    const grouped = run(made, groupLayers(['a', 'c'], newLayer('group', 'g', 'G')));
    expect(ids(grouped)).deep.equal(['b', 'a', 'c', 'g', 'd']);
    expect(grouped.layers.filter((l) => l.group === 'g').map((l) => l.id)).deep.equal(['a', 'c']);
    expect(grouped.layers[3].space).equal('glass');
    const back = run(grouped, ungroupLayer('g'));
    expect(ids(back)).deep.equal(['b', 'a', 'c', 'd']);
    expect(back.layers.every((l) => l.group === '')).equal(true);
  });

  it('copies and deletes groups with all that they hold, and their links among themselves', () => {
    const grouped = run(
      made,
      groupLayers(['a', 'c'], newLayer('group', 'g', 'G')),
      keyValue({ thing: 'a', path: 'opacity', frame: 2 }, 0.5, 'k'),
      { label: 'link', run: (shot) => void (shot.layers.find((l) => l.id === 'a')!.parent = 'c') },
    );
    const copied = run(grouped, duplicateLayer('g', 'g2', 'G copy', 5));
    const copies = copied.layers.filter((l) => l.group === 'g2');
    expect(copies).length(2);
    expect(copies[0].parent).equal(copies[1].id);
    expect(copied.tracks.find((t) => t.thing === copies[0].id)?.keys[0].frame).equal(7);
    const gone = run(copied, deleteLayer('g'));
    expect(gone.layers.map((l) => l.id).sort()).deep.equal(['b', 'd', 'g2', ...copies.map((c) => c.id)].sort());
    expect(gone.tracks.map((t) => t.thing)).deep.equal([copies[0].id]);
  });

  it('orders some in the places that they have, and leaves the others', () => {
    expect(ids(run(made, orderLayers(['d', 'a'])))).deep.equal(['d', 'b', 'c', 'a']);
    expect(ids(run(made, orderLayers(['a', 'b', 'c', 'd'])))).deep.equal(['a', 'b', 'c', 'd']);
  });

  it('knows what one layer is drawn from', () => {
    const list = [
      solid('m', '#FFFFFF'),
      solid('base', '#FFFFFF'),
      solid('c', '#FFFFFF', { clip: true, matte: 'alpha', matteLayer: 'm', parent: 'n' }),
      newLayer('null', 'n', 'N'),
      solid('x', '#FFFFFF'),
    ];
    expect(drawnWith(list, 'c').map((l) => l.id)).deep.equal(['m', 'base', 'c', 'n']);
    const group = [solid('a', '#FFFFFF', { group: 'g' }), newLayer('group', 'g', 'G'), solid('x', '#FFFFFF')];
    expect(drawnWith(group, 'g').map((l) => l.id)).deep.equal(['a', 'g']);
  });
});
