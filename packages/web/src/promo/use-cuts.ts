import { ref, type Ref } from 'vue';
import type { PromoDocument } from '@tender-orbit/core/document';
import { reframed } from '@tender-orbit/core/promo';
import { confirm } from '../ui/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { fittedCopy } from './fitted-copy.ts';
import { useFocus } from './use-focus.ts';
import { usePromo } from './use-promo.ts';

/** Proportions that a cut is copied to. */
export const PROPORTIONS = [
  { name: '9:16', wide: 9, high: 16 },
  { name: '1:1', wide: 1, high: 1 },
  { name: '4:5', wide: 4, high: 5 },
  { name: '16:9', wide: 16, high: 9 },
] as const;
export type Proportion = (typeof PROPORTIONS)[number];

/** Pixels of a side that a promo has at most. */
const LARGEST = 4096;

/** Size of a proportion whose shorter side is as long as that of another size; even, as video wants it. */
export function sizeIn({ wide, high }: { wide: number; high: number }, width: number, height: number) {
  const each = Math.min(Math.min(width, height) / Math.min(wide, high), LARGEST / Math.max(wide, high));
  const even = (v: number): number => 2 * Math.round((v * each) / 2);
  return { width: even(wide), height: even(high) };
}

/** The cuts of the campaign: which is in hand, copies in other proportions, and deleting one. */
export function useCuts(): {
  busy: Ref<boolean>;
  copy: (to: Proportion | null) => Promise<void>;
  remove: () => Promise<void>;
} {
  const campaign = useCampaign();
  const notices = useNotices();
  const { chosen, frame } = usePromo();
  const { modelsOf, focusOf } = useFocus();
  const busy = ref(false);

  async function copy(to: Proportion | null): Promise<void> {
    const promo = campaign.promo;
    if (!promo || busy.value) return;
    busy.value = true;
    await notices.guard(async () => {
      const plain = JSON.parse(JSON.stringify(promo)) as PromoDocument;
      const base = plain.name.replace(/ (\d+[x:]\d+|copy)$/, '');
      if (!to) return campaign.addPromo({ ...plain, name: `${base} copy`.slice(0, 120) });
      await modelsOf(plain);
      const lengths = new Map(campaign.takes.map((t) => [t.id, t.length]));
      const made = reframed(plain, {
        ...{ ...sizeIn(to, plain.width, plain.height), name: `${base} ${to.wide}x${to.high}` },
        ...{ focusOf, takeAspect: campaign.aspect, takeLength: (take) => lengths.get(take) ?? 0 },
      });
      await campaign.addPromo(await fittedCopy(plain, JSON.parse(JSON.stringify(made)) as PromoDocument));
    });
    chosen.value = null;
    frame.value = 0;
    busy.value = false;
  }

  async function remove(): Promise<void> {
    const { promo, promoId, promoIds } = campaign;
    if (!promo || promoIds.length < 2) return;
    const sure = await confirm({
      title: `Delete "${promo.name}"?`,
      text: 'The cut is deleted; takes and files that were delivered stay.',
      yes: 'Delete cut',
      danger: true,
    });
    if (sure) await notices.guard(() => campaign.removePromo(promoId));
    chosen.value = null;
  }
  return { busy, copy, remove };
}
