import './page.ts';
import { expect } from 'chai';
import { noCurves, type Layer, type LayerOf, type MaskPoint, type ShotDocument } from '@tender-orbit/core/document';
import CurvesEditor from '../../src/composite/CurvesEditor.vue';
import GradeWheels from '../../src/composite/GradeWheels.vue';
import LayerDetails from '../../src/composite/LayerDetails.vue';
import LayerPath from '../../src/composite/LayerPath.vue';
import LightDesk from '../../src/composite/LightDesk.vue';
import LogoPick from '../../src/composite/LogoPick.vue';
import MaskFields from '../../src/composite/MaskFields.vue';
import PathEditor from '../../src/composite/PathEditor.vue';
import PlateRack from '../../src/composite/PlateRack.vue';
import { colourAt } from '../../src/composite/colour-at.ts';
import { dropShape, keyShape, plainShape, withPoints } from '../../src/composite/mask-shapes.ts';
import { layerRows } from '../../src/moves/timeline-rows.ts';
import { useCampaign, useNotices, usePlayhead, useRack } from '../../src/stores/index.ts';
import { choose, clearPage, rest, setNumber, show } from './mounted.ts';
import { openCampaign, panel } from './open-campaign.ts';

const real = globalThis.fetch;
const shot = (): ShotDocument => useCampaign().shot!;
const layer = <K extends Layer['kind']>(kind: K): LayerOf<K> =>
  shot().layers.find((l): l is LayerOf<K> => l.kind === kind)!;
const take = {
  ...{ id: 't1', shot: 'shot', name: 'Take 1', quality: 'draft', width: 64, height: 36, length: 48, state: 'done' },
  ...{
    done: [0, 1, 2],
    failed: [],
    passes: false,
    lights: true,
    bytes: 0,
    error: null,
    secondsPerFrame: 1,
    createdAt: '',
  },
} as never;

describe('composite: tools over the rack', () => {
  beforeEach(() => openCampaign({}, { takes: [take] }));
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('light desk', () => {
    it('asks for a take that keeps its lights, and says which one does not', async () => {
      expect(panel(LightDesk, { take }).text()).contain('Put a take on the rack');
      useRack().add('take');
      clearPage();
      expect(panel(LightDesk, { take: { ...(take as object), lights: false } }).text()).contain(
        '"Take 1" does not keep its lights',
      );
    });

    it('has a fader for each light, which is put there when it is touched; switched, coloured and keyed', async () => {
      const rack = useRack();
      rack.add('take');
      const [light] = useCampaign().set!.lights;
      const desk = panel(LightDesk, { take });
      const faders = desk.findAll('.fader');
      expect(faders.length).equal(useCampaign().set!.lights.length + 2);
      expect(layer('fader')).equal(undefined);
      const slider = desk.findAllComponents({ name: 'VSlider' })[0];
      slider.vm.$emit('update:modelValue', 25);
      await rest();
      // A quarter: the way is the root of the level.
      expect(layer('fader')).contain({ light: light.id, level: 0.25, group: layer('take').id, visible: true });
      expect(desk.text()).contain('0.25x');
      await desk.find(`[aria-label="Switch ${light.name} off"]`).trigger('click');
      expect(layer('fader').visible).equal(false);
      await desk.find(`[aria-label="Switch ${light.name} on"]`).trigger('click');
      usePlayhead().frame = 5;
      await desk.find(`[aria-label^="Key level of ${light.name}" i]`).trigger('click');
      expect(shot().tracks).deep.equal([
        { thing: layer('fader').id, path: 'level', keys: [{ frame: 5, value: 0.25, ease: 'eased' }] },
      ]);
      // The rack and its timeline show it by its keys alone.
      expect(rack.plates.map((l) => l.kind)).deep.equal(['take']);
      expect(layerRows(shot()).map((row) => row.kind)).deep.equal(['span', 'thread']);
    });

    it('writes what it says to the lights of the set, and is as it was', async () => {
      const rack = useRack();
      rack.add('take');
      const [light] = useCampaign().set!.lights;
      const { lumens } = light;
      rack.setFader(layer('take').id, light, 'level', 0.5);
      rack.setFader(layer('take').id, { id: 'room', name: 'Room' }, 'level', 2);
      const desk = panel(LightDesk, { take });
      await desk.find('[data-test=write-lights]').trigger('click');
      await rest();
      expect(useCampaign().set!.lights[0].lumens).closeTo(lumens / 2, 1e-9);
      expect(
        shot()
          .layers.filter((l) => l.kind === 'fader')
          .map((l) => l.level),
      ).have.members([1, 2]);
      expect(useNotices().text).contain('Start a take');
    });
  });

  describe('groups', () => {
    it('are made of a plate and the one behind it, looked into by keys, left and undone', async () => {
      const rack = useRack();
      for (const kind of ['gradient', 'specks', 'solid'] as const) rack.add(kind);
      const wrapper = panel(PlateRack);
      await rest();
      await wrapper.find('[data-test=group]').trigger('click');
      await rest();
      expect(layer('group').name).equal('Group');
      expect(rack.plates.map((l) => l.kind)).deep.equal(['group', 'gradient', 'take']);
      const plate = wrapper.findAll('.plate').find((p) => p.text().startsWith('Group'))!;
      expect(plate.text()).contain('2');
      await plate.trigger('keydown', { key: 'Enter' });
      await rest();
      expect(rack.plates.map((l) => l.kind)).deep.equal(['solid', 'specks']);
      expect(wrapper.find('[data-test=group-name]').text()).equal('Group');
      // What is put on the rack now lies in it.
      rack.add('shape');
      expect(layer('shape').group).equal(layer('group').id);
      // Carried within the group alone.
      rack.arrange([layer('specks').id, layer('solid').id, layer('shape').id], 0);
      expect(rack.plates.map((l) => l.kind)).deep.equal(['specks', 'solid', 'shape']);
      await wrapper.find('[data-test=leave-group]').trigger('click');
      await rest();
      rack.chosen = layer('group').id;
      await rest();
      await wrapper.find('[data-test=ungroup]').trigger('click');
      expect(shot().layers.map((l) => l.kind)).deep.equal(['take', 'gradient', 'shape', 'solid', 'specks']);
      expect(shot().layers.every((l) => l.group === '')).equal(true);
    });

    it('what is chosen elsewhere is shown in its group; a deleted group is left', async () => {
      const rack = useRack();
      for (const kind of ['specks', 'solid'] as const) rack.add(kind);
      rack.groupUp([layer('specks').id, layer('solid').id]);
      panel(PlateRack);
      rack.chosen = layer('specks').id;
      await rest();
      expect(rack.inside).equal(layer('group').id);
      rack.remove(layer('group').id);
      expect([rack.inside, rack.plates.length]).deep.equal(['', 1]);
    });
  });

  describe('details', () => {
    it('a layer stands in the set before the first product, and may go along with another but not in a ring', async () => {
      const rack = useRack();
      rack.add('shape');
      rack.add('null');
      rack.chosen = layer('shape').id;
      rack.change(layer('null'), 'Choose parent', { parent: layer('shape').id });
      const details = panel(LayerDetails, { layer: layer('shape') });
      const open = async (title: string): Promise<void> => {
        const head = details.findAll('.v-expansion-panel-title').find((t) => t.text() === title)!;
        await head.trigger('click');
        await rest();
      };
      await open('In the set');
      await details.find('[data-test=in-set] input').setValue(true);
      await rest();
      expect(layer('shape')).contain({ inSet: true, thing: 'item', distance: 0.15, lift: 0.08 });
      await open('In the stack');
      const parent = details.findAllComponents({ name: 'SelectField' }).find((s) => s.props('label') === 'Parent');
      const options = (parent?.props('options') ?? []) as Array<{ title: string }>;
      // The null goes along with the shape already.
      expect(options.map((o) => o.title)).deep.equal(['None', 'Take']);
    });

    it('a mask is drawn from a circle, keyed at frames, and a matte chosen', async () => {
      const rack = useRack();
      rack.add('solid');
      const fields = () => panel(MaskFields, { layer: layer('solid'), things: [], others: [] });
      rack.change(layer('solid'), 'Mask', { mask: 'path' });
      let wrapper = fields();
      await wrapper.find('[data-test=draw-mask]').trigger('click');
      expect(rack.drawing).equal('mask');
      expect(layer('solid').maskPath[0].points).length(4);
      clearPage();
      usePlayhead().frame = 12;
      wrapper = fields();
      await wrapper.find('[data-test=key-mask]').trigger('click');
      expect(layer('solid').maskPath.map((s) => s.frame)).deep.equal([0, 12]);
      clearPage();
      wrapper = fields();
      expect(wrapper.find('[data-test=key-mask]').text()).equal('Delete shape');
      await wrapper.find('[data-test=key-mask]').trigger('click');
      expect(layer('solid').maskPath.map((s) => s.frame)).deep.equal([0]);
      await choose(wrapper, 'Matte', 'Alpha');
      expect(layer('solid').matte).equal('alpha');
    });

    it('a logo that is no drawing is refused by its name, and nothing changes', async () => {
      useRack().add('logo');
      const wrapper = show(LogoPick, { props: { layer: layer('logo') } });
      wrapper.findComponent({ name: 'FilePick' }).vm.$emit('pick', [new File(['<p>'], 'logo.svg')]);
      await rest(60);
      expect(useNotices().text).contain('"logo.svg" is no sound SVG file');
      expect(layer('logo').asset).equal('');
    });
  });

  describe('wheels and curves', () => {
    it('a wheel pulls lift, gamma or gain by keys; its level is a number; nothing else changes', async () => {
      useRack().add('grade');
      const wrapper = panel(GradeWheels, { layer: layer('grade') });
      await wrapper.find('[data-test=wheel-gain]').trigger('keydown', { key: 'ArrowUp' });
      const { slopeRed, slopeGreen, slopeBlue, offsetRed, powerRed } = layer('grade');
      expect(slopeRed).above(1);
      expect(slopeGreen).closeTo(slopeBlue, 1e-9);
      expect((slopeRed + slopeGreen + slopeBlue) / 3).closeTo(1, 1e-3);
      expect([offsetRed, powerRed]).deep.equal([0, 1]);
      await setNumber(wrapper, 'Gamma level', '2');
      expect(layer('grade').powerGreen).closeTo(0.5, 1e-4);
    });

    it('points are put on a curve, moved by keys between their neighbours, and taken away', async () => {
      useRack().add('curves');
      const mounted = () => panel(CurvesEditor, { layer: layer('curves') });
      let wrapper = mounted();
      const svg = wrapper.find('[data-test=curve-box]');
      (svg.element as SVGElement).getBoundingClientRect = () => new DOMRect(0, 0, 200, 200);
      (svg.element as SVGElement).setPointerCapture = () => undefined;
      await svg.trigger('pointerdown', { clientX: 100, clientY: 50, pointerId: 1 });
      await svg.trigger('pointerup');
      expect(layer('curves').curves.rgb).deep.equal([
        [0, 0],
        [0.5, 0.75],
        [1, 1],
      ]);
      clearPage();
      wrapper = mounted();
      const point = wrapper.findAll('circle')[1];
      await point.trigger('keydown', { key: 'ArrowUp', shiftKey: true });
      expect(layer('curves').curves.rgb[1][1]).closeTo(0.8, 1e-9);
      clearPage();
      wrapper = mounted();
      await wrapper.findAll('circle')[1].trigger('keydown', { key: 'Delete' });
      expect(layer('curves').curves.rgb).length(2);
      expect(layer('curves').curves.red).deep.equal(noCurves().red);
    });
  });

  describe('lines over the picture', () => {
    const mounted = (closed = true, least = 3) => {
      const changes: Array<readonly MaskPoint[]> = [];
      const wrapper = show(PathEditor, {
        props: {
          ...{ points: plainShape(0).points, aspect: 2, closed, least, label: 'Mask' },
          onChange: (points: unknown) => changes.push(points as MaskPoint[]),
        },
      });
      return { wrapper, changes };
    };
    it('points and handles move by keys; a smooth point stays smooth unless Alt parts its handles', async () => {
      const { wrapper, changes } = mounted();
      await wrapper.find('[data-test=path-point-2]').trigger('keydown', { key: 'ArrowDown', shiftKey: true });
      expect(changes[0][2].at).deep.equal([0, -0.3]);
      const [, second] = wrapper.findAll('.handle');
      await second.trigger('keydown', { key: 'ArrowRight' });
      const [moved] = changes[1];
      expect(moved.in).deep.equal([-moved.out[0], -moved.out[1]]);
      await second.trigger('keydown', { key: 'ArrowUp', altKey: true });
      expect(changes[2][0].in[1]).equal(plainShape(0).points[0].in[1]);
    });

    it('points are taken away while enough are left, and put in without changing the line', async () => {
      const { wrapper, changes } = mounted();
      await wrapper.find('[data-test=path-point-0]').trigger('keydown', { key: 'Delete' });
      expect(changes[0]).length(3);
      const few = mounted(true, 4);
      await few.wrapper.find('[data-test=path-point-0]').trigger('keydown', { key: 'Delete' });
      expect(few.changes).length(0);
      await wrapper.find('.wide').trigger('dblclick', { clientX: 0, clientY: 0 });
      expect(changes[1]).length(5);
    });

    it('the chosen layer’s stroke is drawn where it lies, from two points on', async () => {
      const rack = useRack();
      rack.add('stroke');
      rack.setValue(layer('stroke'), 'form', 'drawn');
      const details = panel(LayerDetails, { layer: layer('stroke') });
      await details.find('[data-test=draw-stroke]').trigger('click');
      expect(layer('stroke').points).length(2);
      clearPage();
      const path = show(LayerPath, { props: { layer: layer('stroke') } });
      await path.find('[data-test=path-point-1]').trigger('keydown', { key: 'ArrowLeft' });
      expect(layer('stroke').points[1].at[0]).closeTo(0.295, 1e-9);
    });
  });
});

describe('shapes of a drawn mask', () => {
  const first = plainShape(0);
  it('are kept at frames as the mask is there; the last one stays', () => {
    const two = keyShape([first, { frame: 10, points: plainShape(10, 0.5).points }], 5);
    expect(two.map((s) => s.frame)).deep.equal([0, 5, 10]);
    expect(two[1].points[0].at[1]).closeTo(0.375, 1e-12);
    expect(dropShape(two, 5)).length(2);
    expect(dropShape([first], 0)).length(1);
  });

  it('changed at a frame, the shape of that frame changes, or the only one; all have as many points', () => {
    const moved = first.points.map((p) => ({ ...p, at: [p.at[0] + 1, p.at[1]] as [number, number] }));
    expect(withPoints([first], 7, moved)).deep.equal([{ frame: 0, points: moved }]);
    const shapes = [first, plainShape(10)];
    expect(withPoints(shapes, 10, moved).map((s) => s.points[0].at[0])).deep.equal([0, 1]);
    const fewer = withPoints(shapes, 10, moved.slice(0, 3));
    expect(fewer.map((s) => s.points.length)).deep.equal([3, 3]);
  });
});

describe('the colour of a picture under the pointer', () => {
  const data = new Uint8ClampedArray(4 * 2 * 4);
  data.set([0x12, 0xab, 0xff, 255], (1 * 4 + 3) * 4);
  const picture = { width: 4, height: 2, data };
  it('is that of the pixel there, the picture lying whole in the middle of its box; none beside it', () => {
    const box = { left: 10, top: 20, width: 80, height: 80 };
    // Twenty times as large, with twenty above and below.
    expect(colourAt(picture, box, 10 + 75, 20 + 20 + 30)).equal('#12ABFF');
    expect(colourAt(picture, box, 10 + 5, 20 + 25)).equal('#000000');
    expect(colourAt(picture, box, 50, 25)).equal(null);
  });
});
