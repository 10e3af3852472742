import { ref, type Ref } from 'vue';
import { replaceItems, type ProductDocument, type SetProduct } from '@tender-orbit/core/document';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';

/** Where a product is replaced: the one that was pressed, all of its kind in this shot, or in the whole campaign. */
export type ReplaceScope = 'item' | 'shot' | 'campaign';

/** The item on the set that is to be replaced; empty for none. */
const asked = ref('');

const largest = ({ extent, scale }: ProductDocument): number => Math.max(...extent) * scale;

/** Replaces products of the campaign by others. */
export function useReplace(): {
  asked: Ref<string>;
  ask: (item: string) => void;
  replace: (to: string, scope: ReplaceScope, fit: boolean) => Promise<void>;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();

  async function replace(to: string, scope: ReplaceScope, fit: boolean): Promise<void> {
    const item = campaign.set?.products.find((p) => p.id === asked.value);
    const [before, after] = [campaign.products.get(item?.product ?? ''), campaign.products.get(to)];
    asked.value = '';
    if (!item || !after) return;
    const replacement = {
      ...{ product: to, name: after.name, grow: fit && before ? largest(before) / largest(after) : 1 },
      variant: (name: string) => after.variants.find((v) => v.name === name)?.id ?? '',
    };
    const variantName = ({ variant, product }: SetProduct): string =>
      campaign.products.get(product)?.variants.find((v) => v.id === variant)?.name ?? '';
    const command = replaceItems(scope === 'item' ? [item.id] : { of: item.product }, replacement, variantName);
    const gesture = `replace-${Date.now()}`;
    await notices.guard(async () => {
      const shared = campaign.shots.filter((s) => s.document?.set === campaign.setId).length > 1;
      if (scope === 'shot' && shared) await campaign.ownSet();
      const sets = scope === 'campaign' ? campaign.setIds : [campaign.setId];
      for (const set of sets) documents.run('set', set, command, gesture);
    });
  }

  return { asked, ask: (item) => (asked.value = item), replace };
}
