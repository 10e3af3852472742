import { expect } from 'chai';
import {
  findFinish,
  addThing,
  deleteThing,
  deleteUnusedFinishes,
  newBlock,
  newCampaign,
  newPromo,
  newSet,
  newShot,
  newSlot,
  plainItem,
  standOn,
} from '@tender-orbit/core/document';
import { FINISH_LIBRARY } from '@tender-orbit/core/finish';
import { builtDocument, newBuilder, TURNED_PRESETS } from '@tender-orbit/core/product';
import type { CampaignBundle } from '../src/api/index.ts';
import { colourOf, isGrey } from '../src/products/picked-colour.ts';
import { slotsFor } from '../src/products/use-art.ts';
import { useCampaign, useDesk, useDocuments, useNotices, useSelection, useStage } from '../src/stores/index.ts';
import { freshPage } from './fresh-page.ts';

function bundle(): CampaignBundle {
  const set = newSet('Studio');
  const item = (id: string, x: number) => ({
    ...plainItem(),
    ...{ id, name: id, product: 'jar', position: [x, 0, 0] as [number, number, number] },
  });
  return {
    campaign: { id: 'c', revision: 1, document: newCampaign('Launch') },
    products: [
      { id: 'jar', revision: 1, document: builtDocument('Jar', TURNED_PRESETS.jar) },
      { id: 'box', revision: 1, document: builtDocument('Box', newBuilder('carton')) },
    ],
    sets: [
      {
        ...{ id: 'set', revision: 1 },
        document: {
          ...set,
          products: [item('a', 0), item('b', 0.2)],
          surfaces: [...set.surfaces, newBlock('plinth', 'plinth')],
        },
      },
    ],
    shots: [{ id: 'shot', revision: 1, document: newShot('Shot', 'set', 'hero', 24) }],
    promos: [{ id: 'promo', revision: 1, document: newPromo('Launch', 960, 540) }],
    takes: [],
    deliveries: [],
    simulations: [],
  };
}

describe('web: the product and the things in hand', () => {
  const real = globalThis.fetch;
  before(() => {
    globalThis.fetch = (async (path: string) =>
      Response.json(path === '/api/campaigns/c' ? bundle() : { id: 'x', revision: 2 })) as unknown as typeof fetch;
  });
  after(() => void (globalThis.fetch = real));
  beforeEach(async () => {
    await freshPage();
    await useCampaign().open('c');
    useDesk().id = 'jar';
  });
  afterEach(() => useCampaign().close());
  const part = (name: string): number => useDesk().product!.parts.findIndex((p) => p.name === name);

  it('rebuilds as one step, and says why when nothing would be left', () => {
    const desk = useDesk();
    const before = desk.product!.extent[1];
    desk.rebuild('Fill', (b) => (b.kind === 'turned' ? { ...b, cap: { kind: 'none', height: 0 } } : b), 'g');
    desk.rebuild('Fill', (b) => (b.kind === 'turned' ? { ...b, fill: 0 } : b), 'g');
    expect(desk.product!.parts.map((p) => p.name)).deep.equal(['Body', 'Label']);
    expect(desk.product!.extent[1]).below(before);
    useDocuments().undo();
    expect(desk.product!.parts.length).equal(4);
    desk.id = 'box';
    desk.rebuild('x', () => ({
      kind: 'cutout',
      label: 'x',
      outlines: [[0, 0, 1, 0, 2, 0]],
      height: 0.1,
      depth: 0.01,
      bevel: 0,
    }));
    expect(useNotices().text).match(/nothing is left/);
    expect(desk.product!.builder!.kind).equal('carton');
  });

  it('gives the first variant’s finishes to the product and another’s to itself alone', async () => {
    const desk = useDesk();
    await Promise.resolve();
    desk.part = part('Cap');
    const brass = desk.finish;
    desk.addVariant();
    const copper = FINISH_LIBRARY.find((f) => f.finish.name === 'Copper')!.finish;
    desk.dress(copper, 'Copper');
    expect(findFinish(desk.product!, desk.finish)!.name).equal('Copper');
    expect(desk.product!.parts[desk.part].finish).equal(brass);
    desk.variantId = desk.product!.variants[0].id;
    expect(desk.finish).equal(brass);
    // The same finish again is not added a second time.
    const count = desk.product!.finishes.length;
    desk.dress(copper, 'Copper');
    expect(desk.product!.finishes.length).equal(count);
    expect(desk.product!.parts[desk.part].finish).equal(desk.product!.finishes[count - 1].id);
  });

  it('finds and removes finishes that nothing uses, and the others keep theirs', () => {
    const desk = useDesk();
    desk.run({
      label: 'Add',
      run: (d) => void d.finishes.splice(1, 0, { ...d.finishes[0], id: 'idle', name: 'Idle' }),
    });
    const before = desk.product!.parts.map((p) => findFinish(desk.product!, p.finish)!.name);
    expect(desk.unused).deep.equal(['idle']);
    desk.run(deleteUnusedFinishes());
    expect(desk.unused).deep.equal([]);
    expect(desk.product!.parts.map((p) => findFinish(desk.product!, p.finish)!.name)).deep.equal(before);
  });

  it('keeps a product’s last variant and fills slots per variant', () => {
    const desk = useDesk();
    desk.removeVariant(desk.product!.variants[0].id);
    expect(desk.product!.variants.length).equal(1);
    expect(useNotices().text).match(/at least one variant/);
    const sheet = desk.addSheet({
      name: 'Art',
      picture: { asset: 'a'.repeat(64), pattern: null, look: null, emboss: false },
      width: 4,
      height: 4,
    });
    desk.fill('slot-label', { sheet });
    expect(desk.fillOf('slot-label')!.sheet).equal(sheet);
    desk.addVariant();
    desk.fill('slot-label', { sheet: '' });
    expect(desk.fillOf('slot-label')).equal(undefined);
    expect(desk.product!.variants[0].fills.length).equal(1);
  });

  it('matches art files to slots by name, then in order, never twice', () => {
    const slots = ['Front', 'Left', 'Left dust flap'].map((name, i) => newSlot(`s${i}`, name, i));
    expect(slotsFor(['box-left-dust-flap', 'FRONT panel', 'left'], slots, new Set())).deep.equal(['s2', 's0', 's1']);
    expect(slotsFor(['one', 'two'], slots, new Set(['s0']))).deep.equal(['s1', 's2']);
    expect(slotsFor(['one', 'two', 'three', 'four'], slots, new Set())).deep.equal(['s0', 's1', 's2', null]);
  });

  it('reads a colour from a picture', () => {
    const data = new Uint8ClampedArray(16 * 16 * 4);
    for (let i = 0; i < 256; i++) data.set(i % 16 < 8 ? [200, 100, 50, 255] : [0, 0, 255, 255], i * 4);
    expect(colourOf({ width: 16, height: 16, data } as ImageData, 0.2, 0.5)).equal('#C86432');
    expect(colourOf({ width: 16, height: 16, data } as ImageData, 0.9, 0.5)).equal('#0000FF');
  });

  it('tells a height map from a normal map', () => {
    expect(isGrey({ data: new Uint8ClampedArray([10, 12, 11, 255, 200, 200, 205, 255]) as ImageData['data'] })).equal(
      true,
    );
    expect(isGrey({ data: new Uint8ClampedArray([128, 128, 255, 255]) as ImageData['data'] })).equal(false);
  });

  describe('selection', () => {
    const x = (id: string): number => useStage().number(id, 'position.0');

    it('chooses more with Ctrl, takes one back, and starts anew with a plain click', () => {
      const selection = useSelection();
      selection.pick('a');
      selection.pick('plinth', true);
      selection.pick('key', true);
      expect(selection.all).deep.equal(['a', 'plinth', 'key']);
      selection.pick('plinth', true);
      expect(selection.all).deep.equal(['a', 'key']);
      selection.pick('b');
      expect(selection.all).deep.equal(['b']);
      useStage().selected = 'a';
      expect(selection.all).deep.equal(['a']);
    });

    it('moves what is chosen together, as one step, but nothing that is locked', () => {
      const selection = useSelection();
      selection.pick('a');
      selection.pick('b', true);
      selection.place('a', [0.1, 0, 0], 'Move', 'g1');
      expect([x('a'), x('b')].map((v) => Math.round(v * 1e6) / 1e6)).deep.equal([0.1, 0.3]);
      useDocuments().undo();
      expect([x('a'), x('b')]).deep.equal([0, 0.2]);
      selection.pick('b');
      selection.changeAll('Lock', { locked: true });
      selection.place('b', [1, 0, 0], 'Move', 'g2');
      expect(x('b')).equal(0.2);
      selection.pick('a');
      selection.pick('b', true);
      selection.place('a', [0.05, 0, 0], 'Move', 'g3');
      expect([x('a'), x('b')]).deep.equal([0.05, 0.2]);
    });

    it('groups: choosing one chooses all, dragging one drags all', () => {
      const selection = useSelection();
      selection.pick('a');
      selection.pick('plinth', true);
      selection.changeAll('Group', { group: 'g' });
      selection.pick('plinth');
      expect(selection.all).deep.equal(['plinth', 'a']);
      selection.place('plinth', [0.5, 0, 0], 'Move', 'g');
      expect(x('a')).closeTo(0.5, 1e-9);
    });

    it('snaps to the grid while it is on', () => {
      const selection = useSelection();
      selection.pick('a');
      selection.grid = 0.05;
      selection.place('a', [0.123, 0, 0.051], 'Move', 'g');
      expect([x('a'), useStage().number('a', 'position.2')]).deep.equal([0.1, 0.05]);
    });

    it('copies a place and pastes all of it, or only the turn', () => {
      const [selection, stage] = [useSelection(), useStage()];
      stage.setNumber('a', 'turn', 33, 'Turn');
      stage.setNumber('a', 'position.2', 0.4, 'Move');
      selection.pick('a');
      selection.copyPlace();
      selection.pick('b');
      selection.pastePlace('turn');
      expect([stage.number('b', 'turn'), x('b')]).deep.equal([33, 0.2]);
      selection.pastePlace('all');
      expect([x('b'), stage.number('b', 'position.2')]).deep.equal([0, 0.4]);
    });

    it('sets a kit up round a product where it stands, on a plinth too', () => {
      const [stage, campaign] = [useStage(), useCampaign()];
      stage.useKit('dark rim');
      const low = campaign.set!.lights[0].aim[1];
      stage.run(addThing('surfaces', newBlock('stand', 'plinth', { height: 0.08 }), 'Add surface'));
      stage.run(standOn(campaign.set!.products[0].id, 'stand'));
      stage.useKit('dark rim');
      expect(campaign.set!.lights[0].aim[1] - low).closeTo(0.08, 1e-9);
    });

    it('keeps light kits in the campaign and sets them up again', () => {
      const [stage, campaign] = [useStage(), useCampaign()];
      stage.saveKit();
      const [kit] = campaign.campaign!.kits;
      expect(kit.lights.length).equal(3);
      for (const light of campaign.set!.lights) stage.run(deleteThing(light.id));
      stage.useKit(kit as never);
      expect(campaign.set!.lights.map((l) => l.name)).deep.equal(['Key', 'Fill', 'Rim']);
      stage.removeKit(kit.id);
      expect(campaign.campaign!.kits).deep.equal([]);
    });
  });
});
