import './page.ts';
import { expect } from 'chai';
import type { ProductDocument } from '@tender-orbit/core/document';
import type { ModelReport } from '@tender-orbit/core/interchange';
import { builtDocument, newBuilder } from '@tender-orbit/core/product';
import { defineComponent, h, ref } from 'vue';
import FontField from '../../src/controls/FontField.vue';
import ImportReport from '../../src/products/ImportReport.vue';
import PoseFields from '../../src/products/PoseFields.vue';
import { useImport } from '../../src/products/use-import.ts';
import RoomDetails from '../../src/set/details/RoomDetails.vue';
import { useCampaign, useDesk, useNotices } from '../../src/stores/index.ts';
import { byRole, choose, clearPage, rest } from './mounted.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';

const real = { fetch: globalThis.fetch, request: globalThis.XMLHttpRequest };
const HASH = 'b'.repeat(64);

/** A request that says the file was stored. */
class Stored {
  upload: { onprogress?: (event: object) => void } = {};
  status = 201;
  response = { hash: HASH };
  onload?: () => void;
  open(): void {}
  setRequestHeader(): void {}
  send(): void {
    this.upload.onprogress?.({ lengthComputable: true, loaded: 1, total: 2 });
    setTimeout(() => this.onload?.());
  }
}

const file = (name: string): File => new File(['x'], name);
const posts = (path: string): unknown[] =>
  asked.filter(([m, p]) => m === 'POST' && p === path).map(([, , body]) => body);

const report = (more: Partial<ModelReport> = {}): ModelReport => ({
  ...{ triangles: 12034, size: [40, 155, 40], unit: 'm', units: ['mm', 'cm', 'in'], notes: [] },
  ...{ animations: [], lights: [], cameras: [] },
  ...more,
});
const engine = (more: Partial<ProductDocument> = {}): ProductDocument => ({
  ...builtDocument('Engine', newBuilder('carton')),
  ...{ builder: null, model: HASH, source: HASH, fileName: 'engine.glb', extent: [40, 155, 40], scale: 1 },
  ...more,
});
const product = (): ProductDocument => useDesk().product!;

describe('panels of what is brought in', () => {
  const pose = { animation: 0, seconds: 0 };
  const origin = { files: [], animations: [{ name: 'Open', seconds: 2 }], pose: null };
  const answers = {
    'POST /api/products/made/pose': { model: 'c'.repeat(64), extent: [1, 2, 3], pose },
    'POST /api/campaigns/c/products': { id: 'made', revision: 1, document: engine({ origin }), report: report() },
    'POST /api/panoramas': { asset: 'd'.repeat(64) },
    'POST /api/fonts': { asset: HASH, name: 'Heath Hand' },
  };
  beforeEach(async () => {
    globalThis.XMLHttpRequest = Stored as never;
    await openCampaign(answers);
    useImport().arrival.value = null;
    await rest();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => Object.assign(globalThis, { fetch: real.fetch, XMLHttpRequest: real.request }));

  const bring = async (...names: string[]): Promise<void> => {
    const made = await useImport().bring(names.map(file));
    if (made) useDesk().id = made;
    await rest();
  };

  it('a model is sent with what lies beside it, and comes into hand', async () => {
    await bring('notes.txt', 'engine.obj', 'engine.mtl', 'paint.png');
    expect(posts('/api/campaigns/c/products')).deep.equal([
      { fileName: 'engine.obj', asset: HASH, resources: { 'engine.mtl': HASH, 'paint.png': HASH } },
    ]);
    expect(product().name).equal('Engine');
    expect(useImport().state.value).equal(null);
  });

  it('what is no model is refused before anything is sent', async () => {
    await bring('sheet.xlsx');
    expect(useNotices().text).contain('"sheet.xlsx" is no model');
    expect(posts('/api/campaigns/c/products')).deep.equal([]);
  });

  it('the report says its size, and takes its numbers in another unit by one press', async () => {
    await bring('engine.glb');
    const card = panel(ImportReport);
    expect(card.text()).contain('12,034 triangles').contain('40 x 155 x 40 m').contain('in metres');
    const offers = card.findAll('[data-test=offer-unit]');
    expect(offers.map((o) => o.text())).deep.equal([
      'In millimetres: 15.5 cm',
      'In centimetres: 155 cm',
      'In inches: 3.9 m',
    ]);
    await offers[0].trigger('click');
    expect(product().scale).equal(0.001);
    expect(card.find('[data-test=import-size]').text()).equal('4 x 15.5 x 4 cm');
    // The unit that it was taken in before is offered, so that the press can be taken back here.
    expect(card.findAll('[data-test=offer-unit]')[0].text()).equal('In metres: 155 m');
  });

  it('it says what was left out, puts lights and cameras of the file on the set once, and is put away', async () => {
    await bring('engine.glb');
    const light = { name: 'Window', shape: 'spot', position: [0, 2, 3], aim: [0, 2, 2], lumens: 800, kelvin: 4000 };
    useImport().arrival.value = {
      product: 'made',
      report: report({
        notes: ['16 points were left out.'],
        lights: [{ ...light, beamAngle: 60, softness: 0.5 } as never],
        cameras: [{ name: 'Front', position: [0, 1, 4], aim: [0, 1, 3], fieldOfView: 30 }],
      }),
    };
    const card = panel(ImportReport);
    expect(card.text()).contain('16 points were left out.').contain('It brings 1 light and 1 camera.');
    await card.find('[data-test=put-rig]').trigger('click');
    const { lights, cameras } = useCampaign().set!;
    expect(lights.at(-1)).deep.include({ name: 'Window', shape: 'spot', position: [0, 2, 3], lumens: 800 });
    expect(cameras.at(-1)).deep.include({ name: 'Front', position: [0, 1, 4], aim: [0, 1, 3] });
    // A lens of 30 degrees on a picture of 16:9.
    expect(cameras.at(-1)!.focalLength).closeTo(37.8, 0.1);
    expect(card.find('[data-test=put-rig]').exists()).equal(false);
    byRole('button', 'Put this away')!.click();
    await rest();
    expect(card.find('[data-test=import-report]').exists()).equal(false);
  });

  it('a product is posed by an animation of its file, as one step that can be taken back', async () => {
    await bring('engine.glb');
    const fields = panel(PoseFields, { product: product(), origin: product().origin });
    expect(fields.find('[data-test=pose-seconds]').exists()).equal(false);
    await choose(fields, 'Animation of the file', 'Open');
    await rest();
    expect(posts('/api/products/made/pose')).deep.equal([{ pose }]);
    expect(product()).deep.include({ model: 'c'.repeat(64), extent: [1, 2, 3] });
    expect(product().origin!.pose).deep.equal(pose);
    await fields.setProps({ product: product(), origin: product().origin } as never);
    await rest();
    const seconds = fields.find('[data-test=pose-seconds] input');
    for (const value of ['0.5', '1.5']) {
      await seconds.setValue(value);
      await seconds.trigger('keydown', { key: 'Enter' });
    }
    await rest(450);
    // Of a drag only where it rests is read.
    expect(posts('/api/products/made/pose').slice(1)).deep.equal([{ pose: { animation: 0, seconds: 1.5 } }]);
  });

  it('a panorama that is not all round asks what is to be done, and can be mirrored', async () => {
    const answer = globalThis.fetch;
    const problem = { code: 'panorama/shape', title: '"sky.hdr" is not twice as wide as it is high.' };
    globalThis.fetch = (async (path: string, init: { method: string; body: string }) => {
      const odd = path === '/api/panoramas' && (JSON.parse(init.body) as { fit: string }).fit === '';
      if (odd) return Response.json(problem, { status: 422 });
      return answer(path, init as never);
    }) as never;
    const details = panel(RoomDetails);
    const input = details.find('[data-test=panorama-input]');
    const field = (input.element.tagName === 'INPUT' ? input : input.find('input')).element as HTMLInputElement;
    Object.defineProperty(field, 'files', { value: [file('sky.hdr')] });
    field.dispatchEvent(new Event('change'));
    await rest(60);
    expect(details.find('[data-test=panorama-fit]').text()).contain('sky.hdr is not twice as wide');
    byRole('button', 'Fill the rest')!.click();
    await rest(60);
    const body = { asset: HASH, fileName: 'sky.hdr', fit: 'fill', mirror: false };
    expect(posts('/api/panoramas')).deep.equal([body]);
    expect(useCampaign().set!.environment.room).deep.include({ kind: 'file', asset: 'd'.repeat(64) });
    byRole('button', 'Mirror')!.click();
    await rest(60);
    expect(posts('/api/panoramas')[1]).deep.equal({ ...body, mirror: true });
  });

  it('a font is brought for all texts of the campaign, and taken off the list; a text that is set in it keeps it', async () => {
    const font = ref('lora-500');
    const set = (to: string): void => void (font.value = to);
    const field = panel(defineComponent({ setup: () => () => h(FontField, { value: font.value, onChange: set }) }));
    const input = field.find('input[type=file]').element as HTMLInputElement;
    Object.defineProperty(input, 'files', { value: [file('heath.ttf')] });
    input.dispatchEvent(new Event('change'));
    await rest(60);
    expect(posts('/api/fonts')).deep.equal([{ asset: HASH, fileName: 'heath.ttf' }]);
    expect(useCampaign().campaign!.fonts).deep.equal([{ asset: HASH, name: 'Heath Hand' }]);
    expect([font.value, field.text()]).satisfy(
      ([value, text]: string[]) => value === HASH && text.includes('Heath Hand (own)'),
    );
    await field.find('[aria-label="Take Heath Hand off the list"]').trigger('click');
    await rest();
    expect('fonts' in useCampaign().campaign!).equal(false);
    expect([font.value, field.text()]).satisfy(
      ([value, text]: string[]) => value === HASH && text.includes('of another'),
    );
  });
});
