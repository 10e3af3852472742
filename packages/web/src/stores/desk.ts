import { shortened } from '@tender-orbit/core/text';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import {
  addSheet as addSheetCommand,
  addVariant as addVariantCommand,
  copyVariant,
  deleteVariant,
  dressPart,
  fillSlot,
  finishIdOf,
  finishPart,
  replaceProduct,
  unusedFinishes,
  type Builder,
  type ProductCommand,
  type ProductDocument,
  type Sheet,
  type SlotFill,
} from '@tender-orbit/core/document';
import type { Finish } from '@tender-orbit/core/finish';
import { builtDocument, carryVariant, variantOf, withBuilder } from '@tender-orbit/core/product';
import { api, type StoredDocument } from '../api/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { useCampaign } from './campaign.ts';
import { useDocuments } from './documents.ts';
import { useNotices } from './notices.ts';

export type DeskView = 'look' | 'uv';

/** The product in hand at the Products station: which part and variant are looked at, and how they are changed. */
export const useDesk = defineStore('desk', () => {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const id = ref('');
  const part = ref(0);
  const variantId = ref('');
  const view = ref<DeskView>('look');
  /** A finish that was picked up, to be dropped on other parts. */
  const pickedUp = ref<Finish | null>(null);
  /** The slot whose label is handled on the product itself; empty for none. */
  const placing = ref('');
  /** What pressing the label does then: nothing but moving it, or painting its mask; the brush's width is a share of it. */
  const brush = ref<'' | 'hide' | 'show'>('');
  const brushWidth = ref(0.08);

  const product = computed(() => campaign.products.get(id.value));
  const variant = computed(() => product.value && variantOf(product.value, variantId.value));
  /** Id of the product's finish that the part has in this variant. */
  const finish = computed(() => {
    const own = product.value?.parts[part.value];
    return own ? finishIdOf(own, variant.value) : '';
  });
  watch(placing, () => (brush.value = ''));
  watch(id, () => {
    placing.value = '';
    part.value = 0;
    variantId.value = product.value?.variants[0]?.id ?? '';
  });

  /** Runs a command on the product in hand. */
  function run(command: ProductCommand, gesture = ''): void {
    documents.run('product', id.value, command, gesture);
  }

  /** Makes a product from numbers and takes it in hand. */
  async function make(name: string, builder: Builder): Promise<void> {
    await create(builtDocument(name, builder));
  }
  /** A copy of the product in hand, with its art and variants. */
  async function duplicate(): Promise<void> {
    if (product.value) await create({ ...product.value, name: shortened(`${product.value.name} copy`, 120) });
  }
  async function create(document: ProductDocument): Promise<void> {
    await notices.guard(async () => {
      const stored = await api<StoredDocument<'product'>>('POST', `/campaigns/${campaign.id}/products`, {
        product: document,
      });
      campaign.addProduct(stored);
      id.value = stored.id;
    });
  }

  /** Changes the numbers that a built product is made from. */
  function rebuild(label: string, change: (builder: Builder) => Builder, gesture = ''): void {
    const current = product.value;
    if (!current?.builder) return;
    try {
      const next = withBuilder(current, change(JSON.parse(JSON.stringify(current.builder)) as Builder));
      run(replaceProduct(label, next), gesture);
    } catch (error) {
      notices.refuse((error as Error).message);
    }
  }

  /** Takes a picture in as art. @returns its id. */
  function addSheet(sheet: Omit<Sheet, 'id'>): string {
    const made = { ...sheet, id: freshId('sheet') };
    run(addSheetCommand(made));
    return made.id;
  }
  function fillOf(slot: string): SlotFill | undefined {
    return variant.value?.fills.find((f) => f.slot === slot);
  }
  /** Puts a sheet into a slot of the variant in hand; an empty sheet takes it out. */
  function fill(slot: string, values: Partial<Omit<SlotFill, 'slot'>>, label?: string, gesture = ''): void {
    if (variant.value) run(fillSlot(variant.value.id, slot, values, label), gesture);
  }

  /** Another look of the product, like the one in hand. */
  function addVariant(): void {
    if (!variant.value || !product.value) return;
    const made = copyVariant(product.value, variant.value.id, freshId('variant'));
    run(addVariantCommand(made));
    variantId.value = made.id;
  }
  /** Gives another product the variant in hand, and says what found no place there. */
  function carryTo(other: string): void {
    const [from, to] = [product.value, campaign.products.get(other)];
    if (!from || !to || !variant.value) return;
    const { product: next, left } = carryVariant(from, variant.value.id, to, freshId);
    documents.run('product', other, replaceProduct(`Copy variant "${variant.value.name}" here`, next));
    const rest = left.length > 0 ? ` It has no ${left.slice(0, 4).join(', ')}: these were left out.` : '';
    notices.done(`"${variant.value.name}" is a variant of ${to.name} now.${rest}`);
  }
  function removeVariant(which: string): void {
    if ((product.value?.variants.length ?? 0) < 2) {
      notices.refuse('A product keeps at least one variant: add another before deleting this one.');
      return;
    }
    run(deleteVariant(which));
    if (variantId.value === which) variantId.value = product.value?.variants[0].id ?? '';
  }

  /** Gives the part in hand one of the product's finishes, in the variant in hand. */
  function usePartFinish(which: string): void {
    const target = product.value?.parts[part.value];
    if (target && variant.value) run(finishPart(target.index, variant.value.id, which, 'Change finish of a part'));
  }
  /** Adds a finish to the product and gives it to the part in hand. */
  function dress(made: Finish, label: string): void {
    const target = product.value?.parts[part.value];
    if (target && variant.value) run(dressPart(target.index, variant.value.id, made, freshId('finish'), label));
  }
  /** Finishes that no part and no variant uses. */
  const unused = computed(() => (product.value ? unusedFinishes(product.value) : []));

  return {
    ...{ id, part, variantId, view, pickedUp, placing, brush, brushWidth, product, variant, finish, unused },
    ...{ run, make, duplicate, rebuild, addSheet, fillOf, fill },
    ...{ addVariant, carryTo, removeVariant, usePartFinish, dress },
  };
});
