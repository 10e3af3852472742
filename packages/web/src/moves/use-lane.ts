import type { Ref } from 'vue';
import { snapToBeat } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { frameUnder } from '../timeline/lane.ts';
import type { useShotBeats } from './use-shot-beats.ts';

export interface Lane {
  /** The whole frame under a pointer, on a beat or key when one is near and snapping is on (Alt: not). */
  frameAt: (event: PointerEvent | MouseEvent) => number;
}

/** Where pointers are on the lanes of the timeline. @param others frames, besides beats, that things snap to. */
export function useLane(
  lanes: Ref<HTMLElement | undefined>,
  snap: Ref<boolean>,
  grid: ReturnType<typeof useShotBeats>,
  others: () => readonly number[],
): Lane {
  const campaign = useCampaign();
  function frameAt(event: PointerEvent | MouseEvent): number {
    const length = campaign.shot?.length ?? 1;
    const whole = Math.round(frameUnder(event.clientX, lanes.value!.getBoundingClientRect(), length));
    const reach = Math.max(2, length / 60);
    let to = whole;
    if (snap.value && !event.altKey) {
      if (grid.value) to = snapToBeat(grid.value, campaign.rate, whole, reach);
      const near = others().filter((f) => Math.abs(f - whole) <= reach / 2);
      if (to === whole && near.length > 0)
        to = near.reduce((best, f) => (Math.abs(f - whole) < Math.abs(best - whole) ? f : best));
    }
    return Math.min(length, Math.max(0, to));
  }
  return { frameAt };
}
