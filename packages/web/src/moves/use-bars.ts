import { beatsBetween } from '@tender-orbit/core/time';
import { computed, type ComputedRef } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { useShotBeats } from './use-shot-beats.ts';

/** First beats of bars in the shot. */
export function useBars(): {
  /** Their frames; none without music that has beats. */
  bars: ComputedRef<number[]>;
  /** The one that is nearest to a frame, or the frame. */
  nearest: (frame: number) => number;
} {
  const campaign = useCampaign();
  const grid = useShotBeats();
  const bars = computed(() => {
    const all = grid.value ? beatsBetween(grid.value, campaign.rate, 0, campaign.shot?.length ?? 0) : [];
    return all.filter((b) => b.beat === 1 && Math.round(b.frame) > 0).map((b) => Math.round(b.frame));
  });
  const nearest = (frame: number): number =>
    bars.value.reduce((a, b) => (Math.abs(b - frame) < Math.abs(a - frame) ? b : a), bars.value[0] ?? frame);
  return { bars, nearest };
}
