import { computed, ref, type ComputedRef, type Ref } from 'vue';
import { freshName, type PromoDocument } from '@tender-orbit/core/document';
import { nestItems, promoLength, reframed, shownTakes, showsCut, sourceLength } from '@tender-orbit/core/promo';
import { shortened } from '@tender-orbit/core/text';
import { confirm } from '../ui/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
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

/** Another cut of the campaign, as it may be shown in the one in hand. */
export interface OtherCut {
  id: string;
  name: string;
  /** Frames. */
  length: number;
  /** Whether it shows the cut in hand: shown in that one it would have no end. */
  round: boolean;
}

/** The cuts of the campaign: which is in hand, copies in other proportions, cuts within others, and deleting one. */
export function useCuts(): {
  busy: Ref<boolean>;
  /** The campaign's cuts but the one in hand. */
  others: ComputedRef<OtherCut[]>;
  /** Takes a cut in hand. */
  open: (id: string) => void;
  /** Makes a cut of the clips that are chosen, which is shown in their place. */
  nest: () => Promise<void>;
  copy: (to: Proportion | null) => Promise<void>;
  remove: () => Promise<void>;
} {
  const campaign = useCampaign();
  const notices = useNotices();
  const documents = useDocuments();
  const { chosen, chosenItems, frame, run } = usePromo();
  const { modelsOf, focusOf } = useFocus();
  const busy = ref(false);

  const others = computed(() =>
    campaign.promoIds.flatMap((id): OtherCut[] => {
      const cut = campaign.cutOf(id);
      if (!cut || id === campaign.promoId) return [];
      return [{ id, name: cut.name, length: promoLength(cut), round: showsCut(id, campaign.promoId, campaign.cutOf) }];
    }),
  );
  function open(id: string): void {
    campaign.promoChosen = id;
    chosen.value = null;
    frame.value = 0;
  }

  async function nest(): Promise<void> {
    const { promo } = campaign;
    const names = campaign.promoIds.map((id) => documents.get('promo', id)?.name ?? '');
    const plain = promo && (JSON.parse(JSON.stringify(promo)) as PromoDocument);
    const made = plain && nestItems(plain, chosenItems.value, freshName(names, `${shortened(plain.name, 100)} part`));
    if (!made) return;
    await notices.guard(async () => {
      const id = await campaign.addPromo(made.cut);
      const clip = freshId('clip');
      run(made.place(id, clip));
      chosen.value = { kind: 'clip', id: clip };
    });
  }

  async function copy(to: Proportion | null): Promise<void> {
    const promo = campaign.promo;
    if (!promo || busy.value) return;
    busy.value = true;
    await notices.guard(async () => {
      const plain = JSON.parse(JSON.stringify(promo)) as PromoDocument;
      const base = plain.name.replace(/ (\d+[x:]\d+|copy)$/, '');
      if (!to) return open(await campaign.addPromo({ ...plain, name: `${base} copy`.slice(0, 120) }));
      await modelsOf(plain);
      const lengths = new Map(campaign.takes.map((t) => [t.id, t.length]));
      const made = reframed(plain, {
        ...{ ...sizeIn(to, plain.width, plain.height), name: `${base} ${to.wide}x${to.high}` },
        ...{ focusOf, takeLength: sourceLength(campaign.cuts, (take) => lengths.get(take) ?? 0) },
        aspectOf: (id) => {
          const cut = campaign.cuts[id];
          return cut ? cut.width / cut.height : campaign.aspect;
        },
      });
      open(await campaign.addPromo(await fittedCopy(plain, JSON.parse(JSON.stringify(made)) as PromoDocument)));
    });
    busy.value = false;
  }

  async function remove(): Promise<void> {
    const { promo, promoId, promoIds } = campaign;
    if (!promo || promoIds.length < 2) return;
    const users = others.value.filter(({ id }) => shownTakes(campaign.cutOf(id)!).includes(promoId));
    const shownIn =
      users.length > 0
        ? ` Where it is shown, in ${users.map(({ name }) => `"${name}"`).join(', ')}, there will be black.`
        : '';
    const sure = await confirm({
      title: `Delete "${promo.name}"?`,
      text: `The cut is deleted; takes and files that were delivered stay.${shownIn}`,
      yes: 'Delete cut',
      danger: true,
    });
    if (sure) await notices.guard(() => campaign.removePromo(promoId));
    chosen.value = null;
  }
  return { busy, others, open, nest, copy, remove };
}
