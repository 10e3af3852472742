import { useRoute } from 'vue-router';
import { useHandlers } from '../actions/index.ts';
import { useCampaign, useNotices, usePlayhead } from '../stores/index.ts';

/** Shots and the playhead, at every station; Promo plays its own film. */
export function useShotActions(): void {
  const route = useRoute();
  const campaign = useCampaign();
  const notices = useNotices();
  const playhead = usePlayhead();
  const index = (): number => campaign.shots.findIndex((s) => s.id === campaign.shotId);
  const step = (by: number) => ({
    run: () => void (campaign.shotId = campaign.shots[index() + by].id),
    enabled: () => campaign.shots[index() + by] !== undefined,
  });
  const ofShot = (run: (length: number) => void) => ({
    run: () => run(campaign.shot!.length),
    enabled: () => Boolean(campaign.shot) && !route.path.endsWith('/promo'),
  });
  useHandlers({
    'shot.next': step(1),
    'shot.previous': step(-1),
    'shot.add': () => void notices.guard(campaign.addShot),
    'shot.duplicate': { run: () => void notices.guard(campaign.duplicateShot), enabled: () => Boolean(campaign.shot) },
    'shot.continue': { run: () => void notices.guard(campaign.continueShot), enabled: () => Boolean(campaign.shot) },
    'time.play': ofShot((length) => playhead.play(length, campaign.rate)),
    'time.next': ofShot((length) => playhead.seek(playhead.frame + 1, length)),
    'time.previous': ofShot((length) => playhead.seek(playhead.frame - 1, length)),
    'time.start': ofShot((length) => playhead.seek(0, length)),
    'time.end': ofShot((length) => playhead.seek(length - 1, length)),
  });
}
