import './page.ts';
import { expect } from 'chai';
import {
  addSheet,
  addSlot,
  addVariant,
  findFinish,
  newVariant,
  type ProductDocument,
} from '@tender-orbit/core/document';
import BuilderFields from '../../src/products/BuilderFields.vue';
import FinishFields from '../../src/products/FinishFields.vue';
import FinishPanel from '../../src/products/FinishPanel.vue';
import MakeOne from '../../src/products/MakeOne.vue';
import PartList from '../../src/products/PartList.vue';
import PatternMaker from '../../src/products/PatternMaker.vue';
import ProductList from '../../src/products/ProductList.vue';
import SizeFields from '../../src/products/SizeFields.vue';
import SlotArt from '../../src/products/SlotArt.vue';
import SlotFields from '../../src/products/SlotFields.vue';
import TextureFields from '../../src/products/TextureFields.vue';
import VariantStrip from '../../src/products/VariantStrip.vue';
import { useCampaign, useDesk, useDocuments } from '../../src/stores/index.ts';
import { byRole, choose, clearPage, rest, show } from './mounted.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';

const product = (): ProductDocument => useDesk().product!;
const part = (name: string): number => product().parts.findIndex((p) => p.name === name);
const real = globalThis.fetch;

/** Types a number into the field of that name and leaves it. */
async function type(wrapper: ReturnType<typeof show>, name: string, text: string): Promise<void> {
  const input = wrapper.find(`input[aria-label="${name}"]`);
  await input.setValue(text);
  await input.trigger('keydown', { key: 'Enter' });
}

describe('panels of products', () => {
  beforeEach(async () => {
    await openCampaign();
    useDesk().id = 'jar';
    await rest();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('the list', () => {
    it('names each with its height and variants; a press takes it in hand, a right click offers what can be done', async () => {
      const list = panel(ProductList);
      const rows = list.findAll('[data-test=product]');
      const heights = ['jar', 'box'].map((id) => {
        const { extent, scale } = useCampaign().products.get(id)!;
        return Number((extent[1] * scale * 100).toFixed(1));
      });
      expect(rows.map((r) => r.text())).deep.equal([
        `Jar${heights[0]} cm, 1 variant`,
        `Box${heights[1]} cm, 1 variant`,
      ]);
      expect(rows[0].attributes('aria-pressed')).equal('true');
      await rows[1].trigger('click');
      expect(useDesk().id).equal('box');
      await rows[0].trigger('contextmenu', { clientX: 5, clientY: 5 });
      expect(useDesk().id).equal('jar');
    });

    it('makes a product from numbers, under a name that is free', async () => {
      panel(MakeOne);
      byRole('button', 'Carton')!.click();
      await rest();
      byRole('button', 'Turned body')!.click();
      await rest();
      [...document.querySelectorAll<HTMLElement>('.v-list-item')].find((l) => l.textContent?.includes('Jar'))!.click();
      await rest();
      const made = asked.filter(([method, path]) => method === 'POST' && path.endsWith('/products'));
      expect(made.map(([, , body]) => (body as { product: ProductDocument }).product.name)).deep.equal([
        'Carton',
        'Jar 2',
      ]);
    });
  });

  describe('the body', () => {
    it('is changed by its numbers; numbers that mean nothing are not shown', async () => {
      const builder = product().builder!;
      const fields = panel(BuilderFields, { builder });
      const before = fields.findAll('.number-row').length;
      await choose(fields, 'Cap', 'none');
      expect(product().parts.map((p) => p.name)).not.include('Cap');
      await fields.setProps({ builder: product().builder });
      expect(fields.findAll('.number-row').length).equal(before - 1);
      useDocuments().undo();
      expect(product().parts.map((p) => p.name)).include('Cap');
    });

    it('parts are chosen and hidden in the variant in hand', async () => {
      const list = panel(PartList, { product: product() });
      const rows = list.findAll('[data-test=part]');
      await rows[part('Label')].trigger('click');
      expect(useDesk().part).equal(part('Label'));
      byRole('button', 'Hide Label')!.click();
      expect(product().parts[part('Label')].visible).equal(false);
      await list.setProps({ product: product() });
      expect(byRole('button', 'Show Label')).not.equal(undefined);
    });

    it('a model that was brought gets its real size by one side, or by its unit', async () => {
      const sized = panel(SizeFields, { product: product() });
      const height = product().extent[1] * product().scale;
      await type(sized, 'Height, cm', String(height * 200));
      expect(product().extent[1] * product().scale).closeTo(height * 2, 1e-6);
      await sized.setProps({ product: product() });
      const unit = sized.findAll('[role=radio]').find((r) => r.text() === 'mm')!;
      await unit.trigger('click');
      expect(product().scale).equal(0.001);
      await sized.find('[data-test=to-base]').trigger('click');
      expect(product().prepare.toBase).equal(true);
      await choose(sized, 'UV of part', 'Cylindrical projection');
      expect(product().prepare.unwraps[0].unwrap).equal('round');
    });
  });

  describe('finishes', () => {
    const worn = () => findFinish(product(), useDesk().finish)!;

    it('speak the trade’s words and change what they name', async () => {
      useDesk().part = part('Cap');
      const fields = panel(FinishFields, { productId: 'jar', finish: worn() });
      await fields.find('.ui-more button').trigger('click');
      await rest();
      const names = fields.findAll('.number-row input').map((i) => i.attributes('aria-label'));
      expect(names).include.members([
        'Metallic, %',
        'Transmission, %',
        'Clearcoat, %',
        'Iridescence, %',
        'Anisotropy, %',
      ]);
      await type(fields, 'Roughness, %', '80');
      await type(fields, 'Iridescence, %', '25');
      expect(worn()).deep.include({ roughness: 0.8, iridescence: 0.25 });
      for (const [name, key] of [
        ['Colour', 'baseColor'],
        ['Sheen colour', 'sheenColor'],
        ['Emission', 'emissive'],
      ] as const) {
        await type(fields, name, '#ff0000');
        expect(worn()[key], name).deep.equal([1, 0, 0]);
      }
    });

    it('of glass have what light does inside; of metal they have not', async () => {
      useDesk().part = part('Body');
      const glass = panel(FinishFields, { productId: 'jar', finish: worn() });
      expect(glass.text()).contain('Attenuation').contain('IOR');
      await type(glass, 'at distance, mm', '20');
      expect(worn().attenuationDistance).closeTo(0.02, 1e-9);
      useDesk().part = part('Cap');
      const brass = panel(FinishFields, { productId: 'jar', finish: { ...worn(), transmission: 0, metallic: 1 } });
      expect(brass.text()).not.contain('Attenuation').not.contain('IOR');
    });

    it('are given to the part in hand, duplicated, picked up and dropped', async () => {
      const desk = useDesk();
      desk.part = part('Cap');
      const brass = desk.finish;
      const balls = panel(FinishPanel);
      await balls.findAll('[data-test=finish-ball]')[0].trigger('click');
      expect(desk.finish).equal(product().finishes[0].id);
      byRole('button', 'Pick up this finish')!.click();
      desk.part = part('Label');
      await rest();
      byRole('button', `Drop ${product().finishes[0].name} on this part`)!.click();
      expect(desk.finish).equal(product().finishes[0].id);
      byRole('button', 'Duplicate this finish')!.click();
      expect(worn().name).match(/ copy$/);
      await rest();
      expect(desk.unused).include(brass);
      [...document.querySelectorAll('button')].find((b) => /^Unused/.test(b.textContent!.trim()))!.click();
      expect(desk.unused).deep.equal([]);
    });

    it('textures say what they drive, and how they lie is changed', async () => {
      useDesk().part = part('Cap');
      const use = {
        ...{ picture: { asset: 'a'.repeat(64), pattern: null, look: null, emboss: false }, image: 0, rotation: 0 },
        ...{ offset: [0, 0], scale: [1, 2], strength: 1, wrap: ['repeat', 'repeat'] },
      };
      useDesk().run({
        label: 'Texture',
        run: (draft) => void Object.assign(findFinish(draft, useDesk().finish)!.textures, { normal: use }),
      });
      const fields = panel(TextureFields, { productId: 'jar', finish: worn() });
      expect(fields.text()).contain('Texture: Normal or bump');
      await type(fields, 'Repeat', '3');
      expect(worn().textures.normal!.scale).deep.equal([3, 6]);
      await type(fields, 'Rotation, deg', '90');
      expect(worn().textures.normal!.rotation).closeTo(Math.PI / 2, 1e-9);
      byRole('button', 'Take Normal or bump texture off')!.click();
      expect(worn().textures.normal).equal(undefined);
    });
  });

  describe('label art', () => {
    beforeEach(() => {
      const desk = useDesk();
      desk.part = part('Label');
      desk.run(
        addSheet({
          ...{ id: 'art', name: 'Heather', width: 200, height: 100 },
          picture: { asset: 'b'.repeat(64), pattern: null, look: null, emboss: false },
        }),
      );
      desk.run(addSlot('front', product().parts[part('Label')], { projection: 'planar', width: 0.06, height: 0.04 }));
    });
    const slot = () => product().slots.find((s) => s.id === 'front')!;

    it('fills a slot, whose projection has a name of the trade', async () => {
      const fields = panel(SlotFields, { slotData: slot() });
      await choose(fields, 'Art', 'Heather');
      expect(useDesk().fillOf('front')!.sheet).equal('art');
      await choose(fields, 'Projection', 'Cylindrical');
      expect(slot().projection).equal('round');
      await type(fields, 'Width, mm', '80');
      expect(slot().width).closeTo(0.08, 1e-9);
      await type(fields, 'Name of the slot', 'Back');
      expect(slot().name).equal('Back');
      await fields.setProps({ slotData: slot() });
      byRole('button', 'Delete slot Back')!.click();
      expect(slot()).equal(undefined);
    });

    it('changes of the finish only what it is told to, and keeps its proportion', async () => {
      useDesk().fill('front', { sheet: 'art' });
      const art = panel(SlotArt, { slotData: slot(), fill: useDesk().fillOf('front') });
      await art.find('.ui-more button').trigger('click');
      await rest();
      byRole('button', 'emboss')!.click();
      byRole('button', 'roughness')!.click();
      expect(slot()).deep.include({ emboss: 1.5, roughness: 0.5, colour: true });
      byRole('button', 'own proportion')!.click();
      expect(slot().height).closeTo(0.03, 1e-9);
      await type(art, 'Black point, %', '10');
      expect(useDesk().fillOf('front')!.look.black).closeTo(0.1, 1e-9);
    });

    it('patterns come from words, are changed and kept as a sheet', async () => {
      const maker = panel(PatternMaker);
      expect(maker.findAll('[data-test=candidate]').length).equal(3);
      await maker.findAll('[data-test=candidate]')[1].trigger('click');
      await type(maker, 'Across', '7');
      await maker.find('[data-test=keep-pattern]').trigger('click');
      expect(product().sheets.at(-1)!.picture.pattern!.count).equal(7);
    });
  });

  describe('variants', () => {
    it('are shown, named, added and deleted; one stays', async () => {
      useDesk().run(addVariant(newVariant('pine', 'Pine')));
      const strip = panel(VariantStrip);
      await strip.findAll('[data-test=variant]')[1].trigger('click');
      expect(useDesk().variantId).equal('pine');
      const name = strip.findAll('input[aria-label="Name of the variant"]')[1];
      await name.setValue('Dark pine');
      await name.trigger('keydown', { key: 'Enter' });
      expect(product().variants[1].name).equal('Dark pine');
      await strip.find('[data-test=add-variant]').trigger('click');
      expect(product().variants.length).equal(3);
      byRole('button', 'Delete Dark pine')!.click();
      expect(product().variants.some((v) => v.id === 'pine')).equal(false);
      byRole('button', `Delete ${product().variants[1].name}`)!.click();
      await rest();
      // The last one has no button to be deleted by.
      expect(product().variants.length).equal(1);
      expect(strip.findAll('button').filter((b) => /^Delete/.test(b.attributes('aria-label') ?? ''))).length(0);
    });
  });
});
