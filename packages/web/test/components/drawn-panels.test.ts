import './page.ts';
import { expect } from 'chai';
import { changeRoom, newSet, setProperties, type DrawnBox, type SetDocument } from '@tender-orbit/core/document';
import { defineComponent, h, ref } from 'vue';
import PartFrame from '../../src/composite/PartFrame.vue';
import HistoryDialog from '../../src/frame/HistoryDialog.vue';
import ProfileEditor from '../../src/products/ProfileEditor.vue';
import CameraDetails from '../../src/set/details/CameraDetails.vue';
import RepeatProduct from '../../src/set/details/RepeatProduct.vue';
import RoomDrawing from '../../src/set/details/RoomDrawing.vue';
import TryOn from '../../src/set/details/TryOn.vue';
import { useCampaign, useDesk, useDocuments, useNotices, useStage } from '../../src/stores/index.ts';
import { byRole, choose, clearPage, rest, show } from './mounted.ts';
import { asked, openCampaign, panel, turning } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;
const set = (): SetDocument => useCampaign().set!;
const press = async (of: ReturnType<Wrapper['find']>, keys: string[], more: object = {}): Promise<void> => {
  for (const key of keys) await of.trigger('keydown', { key, ...more });
};
/** A panel whose property follows the document, as its owner's does. */
const following = (component: object, props: () => object): Wrapper =>
  panel(defineComponent({ setup: () => () => h(component as never, props()) }));
async function type(of: Wrapper, name: string, text: string): Promise<void> {
  const input = of.find(`input[aria-label="${name}"]`);
  await input.setValue(text);
  await input.trigger('keydown', { key: 'Enter' });
}

describe('panels that are drawn', () => {
  beforeEach(async () => {
    await openCampaign({
      'GET /api/documents/set/set/revisions': [
        { revision: 2, label: 'Move Key', at: '2026-01-02T10:00:00Z', name: null },
        { revision: 1, label: 'New set', at: '2026-01-01T10:00:00Z', name: null },
      ],
      'GET /api/documents/campaign/c/revisions': [
        { revision: 7, label: 'Write the brief', at: '2026-01-01T10:00:00Z', name: 'As signed' },
      ],
      'POST /api/documents/set/set/revisions/1/restore': {
        id: 'set',
        revision: 3,
        document: newSet('Studio of before'),
      },
    });
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('the room', () => {
    const boxes = (): DrawnBox[] => set().environment.room.boxes;
    const room = (): Wrapper => following(RoomDrawing, () => ({ room: set().environment.room }));
    beforeEach(() => useStage().run(changeRoom('Change room', { kind: 'drawn' })));

    it('softboxes are put down, moved and deleted by keys', async () => {
      const drawing = room();
      byRole('button', 'Add softbox')!.click();
      await rest(5);
      expect(boxes()[0]).deep.include({ azimuth: 0, elevation: 30 });
      const outline = drawing.find('.outline');
      await press(outline, ['ArrowRight', 'ArrowRight', 'ArrowDown']);
      await press(outline, ['ArrowUp', 'ArrowLeft'], { shiftKey: true });
      expect(boxes()[0]).deep.include({ azimuth: 9, elevation: 26 });
      useDocuments().undo();
      expect(boxes()[0], 'one softbox’s nudges are one step').deep.include({ azimuth: 0, elevation: 30 });
      await rest(5);
      await press(
        outline,
        Array.from({ length: 20 }, () => 'ArrowUp'),
      );
      expect(boxes()[0].elevation, 'not over the zenith').equal(90);
      await press(
        outline,
        Array.from({ length: 38 }, () => 'ArrowLeft'),
      );
      expect(boxes()[0].azimuth, 'round the back').equal(170);
      await press(outline, ['Delete']);
      expect(boxes()).deep.equal([]);
      expect(drawing.text()).contain('Press where a softbox should shine from');
    });

    it('a press puts one where it should shine from, and drags one that is there', async () => {
      const flat = room().find('[data-test=room-picture]');
      const element = flat.element as HTMLElement;
      element.setPointerCapture = () => {};
      element.getBoundingClientRect = () => new DOMRect(0, 0, 360, 180);
      await flat.trigger('pointerdown', { clientX: 180, clientY: 45 });
      await flat.trigger('pointerup');
      const first = { ...boxes()[0] };
      expect(first.elevation).equal(45);
      await flat.trigger('pointerdown', { clientX: 185, clientY: 50 });
      await flat.trigger('pointermove', { clientX: 180, clientY: 70 });
      await flat.trigger('pointerup');
      await flat.trigger('pointermove', { clientX: 20, clientY: 20 });
      expect(boxes()).length(1);
      expect(boxes()[0]).deep.include({ azimuth: first.azimuth, elevation: 20 });
      await flat.trigger('pointerdown', { clientX: 20, clientY: 20 });
      expect(boxes()).length(2);
    });

    it('the chosen one has its numbers', async () => {
      const drawing = room();
      byRole('button', 'Add softbox')!.click();
      await rest(5);
      await type(drawing, 'Brightness, x', '30');
      await type(drawing, 'Soft edge, %', '50');
      expect(boxes()[0]).deep.include({ brightness: 30, softness: 0.5 });
      byRole('button', 'Delete softbox')!.click();
      await rest(5);
      expect(drawing.find('input').exists()).equal(false);
    });
  });

  describe('a profile', () => {
    type Corner = [number, number, number];
    const profile = (): Corner[] => (useDesk().product!.builder as { profile: Corner[] }).profile;
    const editor = (): Wrapper => following(ProfileEditor, () => ({ profile: profile() }));
    beforeEach(async () => {
      useDesk().id = 'jar';
      await rest();
    });

    it('its corners are moved by keys: by 1 mm, by 0.1 mm with Shift, not through the axis', async () => {
      const drawing = editor();
      const [r, y] = profile()[2];
      await press(drawing.findAll('circle')[2], ['ArrowRight', 'ArrowRight', 'ArrowUp']);
      await press(drawing.findAll('circle')[2], ['ArrowLeft', 'ArrowDown'], { shiftKey: true });
      expect(profile()[2][0]).closeTo(r + 0.0019, 1e-9);
      expect(profile()[2][1]).closeTo(y + 0.0009, 1e-9);
      await press(drawing.findAll('circle')[0], ['ArrowRight']);
      expect(profile()[0][0], 'the first corner stays on the axis').equal(0);
    });

    it('a corner in focus shows its numbers, and is deleted as long as a body is left', async () => {
      const drawing = editor();
      const before = profile().length;
      await drawing.findAll('circle')[2].trigger('focus');
      await type(drawing, 'Radius, mm', '41.5');
      expect(profile()[2][0]).closeTo(0.0415, 1e-9);
      await press(drawing.findAll('circle')[2], ['Delete']);
      expect(profile()).length(before - 1);
      for (let i = 0; i < before + 2; i++) await press(drawing.findAll('circle').at(-1)!, ['Delete']);
      expect(profile()).length(2);
    });
  });

  describe('the part to render', () => {
    it('is moved by arrows and sized with Shift, inside the picture', async () => {
      const part = ref({ x0: 0.2, y0: 0.2, x1: 0.6, y1: 0.6 });
      const frame = following(PartFrame, () => ({
        ...{ aspect: 16 / 9, modelValue: part.value },
        'onUpdate:modelValue': (next: typeof part.value) => (part.value = next),
      }));
      const drawing = frame.find('[data-test=part-frame]');
      await press(drawing, ['ArrowRight', 'ArrowDown', 'ArrowDown']);
      expect(part.value).deep.equal({ x0: 0.21, y0: 0.22, x1: 0.61, y1: 0.62 });
      await press(drawing, ['ArrowLeft', 'ArrowUp'], { shiftKey: true });
      expect(part.value).deep.equal({ x0: 0.21, y0: 0.22, x1: 0.6, y1: 0.61 });
      await press(
        drawing,
        Array.from({ length: 60 }, () => 'ArrowRight'),
      );
      expect(part.value.x1).equal(1);
      expect(part.value.x0).closeTo(0.61, 1e-9);
      expect(drawing.find('rect').attributes('height')).equal(String(part.value.y1 - part.value.y0));
    });
  });

  describe('a camera', () => {
    const camera = () => set().cameras.find((c) => c.id === 'hero')!;

    it('gets another lens, or dollies to one and keeps the size of what it aims at', async () => {
      const details = panel(CameraDetails, { id: 'hero' });
      details
        .findAll('[role=radio]')
        .find((b) => b.text() === '50')!
        .element.dispatchEvent(new Event('click'));
      expect(camera().focalLength).equal(50);
      const away = Math.hypot(...camera().position.map((v, i) => v - camera().aim[i]));
      await type(details, 'Dolly to, mm', '100');
      expect(camera().focalLength).equal(100);
      const now = Math.hypot(...camera().position.map((v, i) => v - camera().aim[i]));
      expect(now / away).closeTo(2, 1e-4);
      useDocuments().undo();
      expect(camera().focalLength).equal(50);
    });

    it('is levelled by a shift of its lens, and says when that is too much', async () => {
      const details = panel(CameraDetails, { id: 'hero' });
      useStage().setValues('hero', { 'position.1': 0.15, 'aim.1': 0.05 }, 'Move', 'test');
      await details.find('[data-test=level]').trigger('click');
      expect(camera().aim[1]).equal(0.15);
      expect(camera().shiftY).lessThan(0);
      useStage().setValues('hero', { 'position.1': 30, 'aim.1': 0 }, 'Move', 'test2');
      await details.find('[data-test=level]').trigger('click');
      expect(camera().aim[1]).equal(0);
      expect(useNotices().text).contain('too steeply');
    });

    it('focuses on a product', async () => {
      const details = panel(CameraDetails, { id: 'hero' });
      await choose(details, 'Focus on', 'Focus on Jar');
      expect(camera().focusOn).equal('item');
      useStage().run(setProperties('hero', { focusOn: '' }, 'Change focus'));
      await rest(5);
      expect(details.text()).contain('Focus by distance');
    });
  });

  describe('copies of a product', () => {
    it('stand as asked, each named, and move later one after another', async () => {
      useDocuments().run('shot', 'shot', turning(set().products[0].id));
      const repeat = panel(RepeatProduct, { id: 'item' });
      await repeat.find('[data-test=repeat]').trigger('click');
      await type(repeat, 'Together', '4');
      await type(repeat, 'Spacing, cm', '20');
      await type(repeat, 'Turn each, deg', '15');
      await type(repeat, 'Later each, f', '6');
      await repeat.find('[data-test=repeat-make]').trigger('click');
      await rest(5);
      const all = set().products;
      expect(all.map((p) => Number(p.position[0].toFixed(3)))).deep.equal([0, 0.2, 0.4, 0.6]);
      expect(all.map((p) => p.product)).deep.equal(['jar', 'jar', 'jar', 'jar']);
      expect(new Set(all.map((p) => p.name)).size).equal(4);
      const begins = all.map((p) => useCampaign().shot!.tracks.find((t) => t.thing === p.id)!.keys[0].frame);
      expect(begins).deep.equal([0, 6, 12, 18]);
      expect(repeat.find('[data-test=repeat-make]').exists()).equal(false);
    });

    it('too many are refused, and nothing is made', async () => {
      const repeat = panel(RepeatProduct, { id: 'item' });
      await repeat.find('[data-test=repeat]').trigger('click');
      const grid = repeat.findAll('[role=radio]').find((b) => b.text() === 'Grid')!;
      await grid.trigger('click');
      await type(repeat, 'In a row', '50');
      await type(repeat, 'Rows', '50');
      await repeat.find('[data-test=repeat-make]').trigger('click');
      await rest(5);
      expect(set().products).length(1);
      expect(useNotices().text).contain('200 copies');
    });
  });

  describe('finishes tried on', () => {
    it('go by group; a press takes one', async () => {
      const strip = panel(TryOn, { id: 'plinth' });
      const names = (): string[] => strip.findAll('.one').map((o) => o.text().replace('tracing...', ''));
      const stone = names();
      expect(stone.length).greaterThan(2);
      const other = strip.findAll('[role=radio]').find((b) => b.attributes('aria-checked') === 'false')!;
      await other.trigger('click');
      expect(names().some((name) => stone.includes(name))).equal(false);
      await strip.findAll('.one')[1].trigger('click');
      expect((strip.emitted('pick') as Array<[{ name: string }]>)[0][0].name).equal(names()[1]);
    });
  });

  describe('saved revisions', () => {
    const rows = (): string[] =>
      [...document.querySelectorAll('[data-test=history] li')].map((li) => li.querySelector('.spread')!.textContent!);

    it('are listed by document, and brought back', async () => {
      panel(HistoryDialog, { modelValue: true });
      await rest();
      expect(rows()).deep.equal(['Move Key', 'New set']);
      byRole('button', 'Bring back')!.click();
      await rest();
      expect(set().name).equal('Studio of before');
    });

    it('one with a name is kept under it; the same name again asks nothing', async () => {
      panel(HistoryDialog, { modelValue: true });
      await rest();
      const name = document.querySelector<HTMLInputElement>('input[aria-label="Name of revision 1"]')!;
      const puts = (): unknown[] => asked.filter(([m]) => m === 'PUT').map(([, path, body]) => [path, body]);
      const give = async (text: string): Promise<void> => {
        name.value = text;
        name.dispatchEvent(new Event('input'));
        name.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
        await rest(5);
      };
      await give('   ');
      expect(puts()).deep.equal([]);
      await give(' Before the client ');
      expect(puts()).deep.equal([['/api/documents/set/set/revisions/1/name', { name: 'Before the client' }]]);
    });
  });
});
