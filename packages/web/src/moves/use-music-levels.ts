import type { MusicBand } from '@tender-orbit/core/document';
import { fileSeconds } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { listenTo } from '../music/analysis.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { useShotMusic } from './use-shot-beats.ts';

/** Measures a band of the music at each frame of the shot, 0..1; null without music, which is said. */
export function useMusicLevels(): (band: MusicBand) => Promise<number[] | null> {
  const campaign = useCampaign();
  const notices = useNotices();
  const start = useShotMusic();
  return async (band) => {
    const { promo, shot, rate } = campaign;
    if (!promo?.music || !shot || start.value === null) {
      notices.refuse('There is no music yet that could move anything: choose some under the recipes.');
      return null;
    }
    let levels: number[] | null = null;
    const from = start.value;
    await notices.guard(async () => {
      const { levels: heard } = await listenTo(promo.music!.asset);
      levels = Array.from({ length: shot.length + 1 }, (_, frame) => {
        const at = Math.round(fileSeconds(promo.music!, from + framesToSeconds(frame, rate)) * heard.rate);
        return Number((heard[band][at] ?? 0).toFixed(3));
      });
    });
    return levels;
  };
}
