import { computed, type ComputedRef } from 'vue';
import { placedClips, promoBeats } from '@tender-orbit/core/promo';
import { framesToSeconds, type BeatGrid } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';

/** The music's beats on the frames of the shot in hand, from the first clip of the promo that shows one of its takes. */
export function useShotBeats(): ComputedRef<BeatGrid | null> {
  const campaign = useCampaign();
  return computed(() => {
    const { promo } = campaign;
    const grid = promo && promoBeats(promo);
    if (!grid) return null;
    const own = new Set(campaign.shotTakes.map((t) => t.id));
    const placed = placedClips(promo).find((p) => own.has(p.clip.take));
    if (!placed) return null;
    return { ...grid, firstBeat: grid.firstBeat - framesToSeconds(placed.from - placed.clip.start, campaign.rate) };
  });
}
