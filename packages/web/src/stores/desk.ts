import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import {
  plainLook,
  type Builder,
  type LabelSlot,
  type ProductDocument,
  type Sheet,
  type SlotFill,
} from '@tender-orbit/core/document';
import type { Finish } from '@tender-orbit/core/finish';
import { builtDocument, carryVariant, variantOf, withBuilder } from '@tender-orbit/core/product';
import { api, type StoredDocument } from '../api/index.ts';
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
  const held = ref<Finish | null>(null);
  /** The slot whose label is handled on the product itself; empty for none. */
  const placing = ref('');
  /** What pressing the label does then: nothing but moving it, or painting its mask; the brush's width is a share of it. */
  const brush = ref<'' | 'hide' | 'show'>('');
  const brushWidth = ref(0.08);

  const product = computed(() => campaign.products.get(id.value));
  const variant = computed(() => product.value && variantOf(product.value, variantId.value));
  /** Index into the product's finishes of what the part wears in this variant. */
  const finish = computed(() => {
    const own = product.value?.parts[part.value];
    return variant.value?.finishes.find((f) => f.part === own?.index)?.finish ?? own?.finish ?? 0;
  });
  watch(placing, () => (brush.value = ''));
  watch(id, () => {
    placing.value = '';
    part.value = 0;
    variantId.value = product.value?.variants[0]?.id ?? '';
  });

  function edit(label: string, recipe: (draft: ProductDocument) => void, gesture = ''): void {
    documents.edit('product', id.value, label, (draft) => recipe(draft as ProductDocument), gesture);
  }
  function fresh(kind: string): string {
    return `${kind}-${crypto.randomUUID().slice(0, 8)}`;
  }

  /** Makes a product from numbers and takes it in hand. */
  async function make(name: string, builder: Builder): Promise<void> {
    await create(builtDocument(name, builder));
  }
  /** A copy of the product in hand, with its art and variants. */
  async function duplicate(): Promise<void> {
    if (product.value) await create({ ...product.value, name: `${product.value.name} copy`.slice(0, 120) });
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
      edit(label, (draft) => void Object.assign(draft, next), gesture);
    } catch (error) {
      notices.refuse((error as Error).message);
    }
  }

  /** Takes a picture in as art. @returns its id. */
  function addSheet(sheet: Omit<Sheet, 'id'>): string {
    const made = { ...sheet, id: fresh('sheet') };
    edit(`Add art "${sheet.name}"`, (draft) => void draft.sheets.push(made));
    return made.id;
  }
  function fillOf(slot: string): SlotFill | undefined {
    return variant.value?.fills.find((f) => f.slot === slot);
  }
  /** Puts a sheet into a slot of the variant in hand; an empty sheet takes it out. */
  function fill(slot: string, values: Partial<Omit<SlotFill, 'slot'>>, label = 'Change label art', gesture = ''): void {
    const at = variant.value?.id;
    edit(
      label,
      (draft) => {
        const target = draft.variants.find((v) => v.id === at)!;
        const known = target.fills.find((f) => f.slot === slot);
        if (known) Object.assign(known, values);
        else target.fills.push({ slot, sheet: '', look: plainLook(), ...values });
        target.fills = target.fills.filter((f) => f.sheet !== '');
      },
      gesture,
    );
  }
  function editSlot(slot: string, label: string, values: Partial<LabelSlot>, gesture = ''): void {
    edit(
      label,
      (draft) =>
        void Object.assign(
          draft.slots.find((s) => s.id === slot)!,
          values,
        ),
      gesture,
    );
  }

  /** Another look of the product, like the one in hand. */
  function addVariant(): void {
    const from = variant.value;
    if (!from || !product.value) return;
    const made = {
      ...(JSON.parse(JSON.stringify(from)) as typeof from),
      ...{ id: fresh('variant'), name: `Variant ${product.value.variants.length + 1}` },
    };
    edit('Add variant', (draft) => void draft.variants.push(made));
    variantId.value = made.id;
  }
  /** Gives another product the variant in hand, and says what found no place there. */
  function carryTo(other: string): void {
    const [from, to] = [product.value, campaign.products.get(other)];
    if (!from || !to || !variant.value) return;
    const { product: next, left } = carryVariant(from, variant.value.id, to, fresh);
    documents.edit('product', other, `Copy variant "${variant.value.name}" here`, (draft) => {
      Object.assign(draft, next);
    });
    const rest = left.length > 0 ? ` It has no ${left.slice(0, 4).join(', ')}: these were left out.` : '';
    notices.done(`"${variant.value.name}" is a variant of ${to.name} now.${rest}`);
  }
  function removeVariant(which: string): void {
    if ((product.value?.variants.length ?? 0) < 2) {
      notices.refuse('A product keeps at least one variant: add another before deleting this one.');
      return;
    }
    edit('Delete variant', (draft) => void (draft.variants = draft.variants.filter((v) => v.id !== which)));
    if (variantId.value === which) variantId.value = product.value?.variants[0].id ?? '';
  }
  function renameVariant(which: string, name: string): void {
    if (name.trim())
      edit('Rename variant', (d) => void (d.variants.find((v) => v.id === which)!.name = name.trim().slice(0, 120)));
  }

  /**
   * Gives the part in hand a finish: in the first variant it is the product's own, in another only that variant's.
   */
  function wear(finishIndex: number, label = 'Change finish of a part'): void {
    const at = variant.value?.id;
    edit(label, (draft) => {
      const target = draft.parts[part.value];
      if (at === draft.variants[0].id) target.finish = finishIndex;
      else {
        const own = draft.variants.find((v) => v.id === at)!;
        own.finishes = own.finishes.filter((f) => f.part !== target.index);
        own.finishes.push({ part: target.index, finish: finishIndex });
      }
    });
  }
  /** Adds a finish to the product and gives it to the part in hand. */
  function dress(made: Finish, label: string): void {
    const known = product.value?.finishes.findIndex((f) => JSON.stringify(f) === JSON.stringify(made)) ?? -1;
    if (known >= 0) {
      wear(known, label);
      return;
    }
    const at = product.value!.finishes.length;
    edit(label, (draft) => void draft.finishes.push(JSON.parse(JSON.stringify(made)) as Finish));
    wear(at, label);
  }
  /** Finishes that no part and no variant wears. */
  const unused = computed(() => {
    const used = new Set([
      ...(product.value?.parts.map((p) => p.finish) ?? []),
      ...(product.value?.variants.flatMap((v) => v.finishes.map((f) => f.finish)) ?? []),
    ]);
    return product.value?.finishes.map((_, i) => i).filter((i) => !used.has(i)) ?? [];
  });
  function removeUnused(): void {
    const gone = new Set(unused.value);
    edit('Remove unused finishes', (draft) => {
      const place = new Map<number, number>();
      draft.finishes.forEach((_, i) => gone.has(i) || place.set(i, place.size));
      draft.finishes = draft.finishes.filter((_, i) => !gone.has(i));
      for (const p of draft.parts) p.finish = place.get(p.finish)!;
      for (const v of draft.variants) for (const f of v.finishes) f.finish = place.get(f.finish)!;
    });
  }

  return {
    ...{ id, part, variantId, view, held, placing, brush, brushWidth, product, variant, finish, unused },
    ...{ edit, fresh, make, duplicate, rebuild, addSheet, fillOf, fill, editSlot },
    ...{ addVariant, carryTo, removeVariant, renameVariant, wear, dress, removeUnused },
  };
});
