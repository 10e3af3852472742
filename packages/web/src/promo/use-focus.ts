import { until } from '@vueuse/core';
import { toRaw } from 'vue';
import type { PromoDocument } from '@tender-orbit/core/document';
import { modelKey } from '@tender-orbit/core/product';
import type { Focus, FocusOf } from '@tender-orbit/core/promo';
import { compile, screenBoxes, type Outline } from '@tender-orbit/core/scene';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { modelOf } from '../viewer/models.ts';

/** How long models are waited for, ms: without them nothing is known of where products are. */
const PATIENCE = 15_000;

const focusFrom = ({ id, min, max }: Outline & { id: string }): Focus => ({
  id,
  x: (min[0] + max[0]) / 2,
  y: (min[1] + max[1]) / 2,
  wide: max[0] - min[0],
  high: max[1] - min[1],
});

/** Where products are in the pictures of a cut's takes, as their shots are now. */
export function useFocus(): { modelsOf: (promo: PromoDocument) => Promise<void>; focusOf: FocusOf } {
  const campaign = useCampaign();
  const documents = useDocuments();

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
  return { modelsOf, focusOf };
}
