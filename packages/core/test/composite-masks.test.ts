import { expect } from 'chai';
import {
  deleteLayer,
  duplicateLayer,
  keyValue,
  MASK_COMBINES,
  newLayer,
  newShot,
  runCommand,
  type Layer,
} from '@tender-orbit/core/document';
import { compileLayers, drawnWith } from '@tender-orbit/core/composite';
import { at, composed } from './composite-box.ts';

const SIZE = { width: 80, height: 40 };
const seen = (layers: Layer[], frame = 0) => compileLayers({ ...newShot('S', 'set', 'hero', 24), layers }).at(frame);
const red = (layers: Layer[], x: number, y = 20, frame = 0): number =>
  at(composed(seen(layers, frame), { ...SIZE, frame }), x, y)[0];
/** A mask over the left or right half of the picture, so far as it goes. */
const half = (across: number): Partial<Layer> => ({
  ...{ mask: 'rectangle', maskX: across, maskWidth: 1, maskHeight: 4, feather: 0.001 },
});
const white = (values: Partial<Layer> = {}): Layer =>
  newLayer('solid', 's', 'S', { colour: '#FFFFFF', space: 'glass', ...values } as Partial<Layer>);
const further = (combine: (typeof MASK_COMBINES)[number], values: Partial<Layer> = {}, id = 'm'): Layer =>
  newLayer('mask', id, id, { group: 's', combine, ...half(0.25), ...values } as Partial<Layer>);

describe('composite: further masks of a layer', () => {
  // The first lies from -0.75 to 0.25, the second from -0.25 to 0.75: pixels 10..50 and 30..70.
  const ONLY_FIRST = 20;
  const BOTH = 40;
  const ONLY_SECOND = 60;
  const NONE = 5;
  const WANTED = {
    add: [255, 255, 255, 0],
    subtract: [255, 0, 0, 0],
    intersect: [0, 255, 0, 0],
    difference: [255, 0, 255, 0],
  };

  for (const combine of MASK_COMBINES)
    it(`${combine}: is seen where the two together say so`, () => {
      const list = [white(half(-0.25)), further(combine)];
      expect([ONLY_FIRST, BOTH, ONLY_SECOND, NONE].map((x) => red(list, x))).deep.equal(WANTED[combine]);
    });

  it('meet as coverage does where edges are soft: half and half add to three quarters', () => {
    const soft = { mask: 'rectangle', maskX: 0, maskWidth: 1, maskHeight: 4, feather: 2, maskGrow: -0.5 } as const;
    const one = red([white(soft)], 40);
    const both = red([white(soft), further('add', soft)], 40);
    const share = one / 255;
    expect(both / 255).closeTo(1 - (1 - share) ** 2, 0.01);
  });

  it('opacity takes a part of what a mask does, and intersecting with none of it changes nothing', () => {
    const at50 = (combine: (typeof MASK_COMBINES)[number], x: number): number =>
      red([white(half(-0.25)), further(combine, { opacity: 0.5 })], x);
    expect(at50('subtract', BOTH)).closeTo(128, 1);
    expect(at50('intersect', ONLY_FIRST)).closeTo(128, 1);
    expect(at50('intersect', BOTH)).equal(255);
  });

  it('without a mask of its own the first one adds to nothing, or takes from the whole', () => {
    expect([BOTH, NONE].map((x) => red([white(), further('add')], x))).deep.equal([255, 0]);
    expect([BOTH, NONE].map((x) => red([white(), further('subtract')], x))).deep.equal([0, 255]);
  });

  it('have keys and spans of their own, and are nothing without their layer', () => {
    const layers = [white(half(-0.25)), further('subtract')];
    const shot = { ...newShot('S', 'set', 'hero', 24), layers };
    const keyed = [0, 10].reduce(
      (doc, frame) => runCommand(doc, keyValue({ thing: 'm', path: 'maskX', frame }, frame / 10, 'Key')),
      shot,
    );
    const moved = (frame: number): number =>
      at(composed(compileLayers(keyed).at(frame), { ...SIZE, frame }), ONLY_FIRST, 20)[0];
    expect([moved(0), moved(10)]).deep.equal([0, 255]);
    const late = [white(half(-0.25)), further('subtract', { start: 5 })];
    expect([0, 5].map((frame) => red(late, BOTH, 20, frame))).deep.equal([255, 0]);
    expect(seen([further('add')])).deep.equal([]);
    expect(seen([{ ...further('add'), group: 'm' }])).deep.equal([]);
  });

  it('go with their layer when it is copied, deleted, isolated or cuts another as its matte', () => {
    const layers = [white(half(-0.25)), further('add'), newLayer('text', 't', 'T')];
    const shot = { ...newShot('S', 'set', 'hero', 24), layers };
    const copied = runCommand(shot, duplicateLayer('s', 'c', 'Copy')).layers;
    expect(copied.find((l) => l.kind === 'mask' && l.group === 'c')).not.equal(undefined);
    expect(runCommand(shot, deleteLayer('s')).layers.map((l) => l.id)).deep.equal(['t']);
    expect(drawnWith(layers, 's').map((l) => l.id)).deep.equal(['s', 'm']);
    const matte = { ...white({ ...half(-0.25), visible: false }) };
    const cut = newLayer('solid', 'd', 'D', {
      ...{ colour: '#FF0000', space: 'glass', matte: 'alpha', matteLayer: 's' },
    } as Partial<Layer>);
    const list = [matte, further('subtract'), cut];
    expect([ONLY_FIRST, BOTH].map((x) => red(list, x))).deep.equal([255, 0]);
  });
});
