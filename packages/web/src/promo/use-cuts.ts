import { until } from '@vueuse/core';
import { ref, toRaw, type Ref } from 'vue';
import type { PromoDocument } from '@tender-orbit/core/document';
import { modelKey } from '@tender-orbit/core/product';
import { reframed, type Focus, type FocusOf } from '@tender-orbit/core/promo';
import { compile, screenBoxes, type Outline } from '@tender-orbit/core/scene';
import { confirm } from '../ui/index.ts';
import { modelOf } from '../viewer/models.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { usePromo } from './use-promo.ts';

/** Proportions that a cut is copied to. */
export const PROPORTIONS = [
  { name: '9:16', wide: 9, high: 16 },
  { name: '1:1', wide: 1, high: 1 },
  { name: '4:5', wide: 4, high: 5 },
  { name: '16:9', wide: 16, high: 9 },
] as const;
export type Proportion = (typeof PROPORTIONS)[number];

/** How long models are waited for, ms: without them the middle of the picture is kept. */
const PATIENCE = 15_000;

/** Pixels of a side that a promo has at most. */
const LARGEST = 4096;

/** Size of a proportion whose shorter side is as long as that of another size; even, as video wants it. */
export function sizeIn({ wide, high }: { wide: number; high: number }, width: number, height: number) {
  const each = Math.min(Math.min(width, height) / Math.min(wide, high), LARGEST / Math.max(wide, high));
  const even = (v: number): number => 2 * Math.round((v * each) / 2);
  return { width: even(wide), height: even(high) };
}

const focusFrom = ({ id, min, max }: Outline & { id: string }): Focus => ({
  id,
  x: (min[0] + max[0]) / 2,
  y: (min[1] + max[1]) / 2,
  wide: max[0] - min[0],
  high: max[1] - min[1],
});

/** The cuts of the campaign: which is in hand, copies in other proportions, and deleting one. */
export function useCuts(): {
  busy: Ref<boolean>;
  copy: (to: Proportion | null) => Promise<void>;
  remove: () => Promise<void>;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const { chosen, frame } = usePromo();
  const busy = ref(false);

  /** The models that stand in the takes of a cut are there, as far as they can be had. */
  async function modelsOf(promo: PromoDocument): Promise<void> {
    const shots = new Set(campaign.takes.filter((t) => promo.clips.some((c) => c.take === t.id)).map((t) => t.shot));
    const sets = [...shots].map((shot) => documents.get('set', documents.get('shot', shot)?.set ?? ''));
    const keys = new Set(
      sets
        .flatMap((set) => set?.products ?? [])
        .flatMap(({ product }) => {
          const document = campaign.products.get(product);
          return document ? [modelKey(document)] : [];
        }),
    );
    await Promise.all(
      [...keys].map((key) => until(() => modelOf(key)).toBeTruthy({ timeout: PATIENCE, throwOnTimeout: false })),
    );
  }

  /** The product that the cut means, where the take's shot has it as it stands now. */
  const focusOf: FocusOf = (take, at, near, id) => {
    const shot = documents.get('shot', campaign.takes.find((t) => t.id === take)?.shot ?? '');
    const set = shot && documents.get('set', shot.set);
    if (!shot || !set?.cameras.some((c) => c.id === shot.camera)) return null;
    const context = {
      products: campaign.products,
      meshes: (key: string) => modelOf(key)?.meshes,
      aspect: campaign.aspect,
    };
    const all = screenBoxes(compile(toRaw(set), toRaw(shot)), at, context).map(focusFrom);
    const same = all.find((focus) => focus.id === id);
    if (same) return same;
    const seen = all.filter(({ x, y }) => Math.abs(x) < campaign.aspect / 2 && Math.abs(y) < 0.5);
    const away = ({ x, y }: Focus): number => (x - near.x) * (x - near.x) + (y - near.y) * (y - near.y);
    return seen.reduce<Focus | null>((best, f) => (best && away(best) <= away(f) ? best : f), null);
  };

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
      await campaign.addPromo(
        reframed(plain, {
          ...{ ...sizeIn(to, plain.width, plain.height), name: `${base} ${to.wide}x${to.high}` },
          ...{ focusOf, takeAspect: campaign.aspect, takeLength: (take) => lengths.get(take) ?? 0 },
        }),
      );
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
