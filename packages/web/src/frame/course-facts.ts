import type { ComputedRef } from 'vue';
import { movedThings } from '@tender-orbit/core/document';
import { promoLength } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { countOf } from '../controls/count-of.ts';
import { keptComputed } from '../controls/kept.ts';
import { useCampaign } from '../stores/index.ts';

/** One live fact about a station, and how far its work is, 0..1. */
export interface CourseFact {
  text: string;
  done: number;
}

/** Facts by station path, from what is in the campaign now. */
export function useCourseFacts(): ComputedRef<Record<string, CourseFact>> {
  const store = useCampaign();
  return keptComputed((): Record<string, CourseFact> => {
    const { campaign, set, promo, products, shots, takes, deliveries } = store;
    if (!campaign) return {};
    const moving = shots.filter((s) => s.document && movedThings(s.document).length > 0).length;
    const ready = shots.filter((s) => takes.some((t) => t.shot === s.id && t.state === 'done')).length;
    const frames = promo ? promoLength(promo) : 0;
    const files = deliveries.filter((d) => d.state === 'done').length;
    const answers = [campaign.client, campaign.message].filter((t) => t.trim() !== '').length;
    return {
      brief: { text: campaign.client || 'no client yet', done: answers / 2 },
      products: { text: countOf(products.size, 'product'), done: products.size > 0 ? 1 : 0 },
      set: { text: countOf(set?.lights.length ?? 0, 'light'), done: set && set.products.length > 0 ? 1 : 0.3 },
      moves: { text: `${moving} of ${countOf(shots.length, 'shot')}`, done: shots.length ? moving / shots.length : 0 },
      composite: { text: `takes ${ready}/${shots.length}`, done: shots.length ? ready / shots.length : 0 },
      promo: { text: `${framesToSeconds(frames, store.rate).toFixed(1)} s`, done: frames > 0 ? 1 : 0 },
      release: { text: countOf(files, 'file'), done: files > 0 ? 1 : 0 },
    };
  });
}
