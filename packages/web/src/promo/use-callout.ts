import type { FollowedPoint } from '@tender-orbit/core/contract';
import { newDress, newTitle, addTitle, setPart, type TitleCallout } from '@tender-orbit/core/document';
import { placedClips, pointOfClip, promoLength, shownAt, takeTime } from '@tender-orbit/core/promo';
import { ref, toRaw, watch, type Ref } from 'vue';
import { api } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { usePromo } from './use-promo.ts';

/** The title whose point is picked in the picture; empty: none is. */
const picking = ref('');
/** While a point is followed through its take. */
const following = ref(false);

/** Frames that are followed at most: of a longer take those that the clip shows. */
const MOST = 2000;
/** Seconds that a new callout stays. */
const STAYS = 2;

/** Titles that point at something in a take. */
export function useCallout(): {
  picking: Ref<string>;
  following: Ref<boolean>;
  /** A title that points at what is pressed next in the picture. */
  add: () => void;
  /** Points a title at what is seen at a place of the promo's picture: shares of its width and height. */
  pointAt: (across: number, down: number) => Promise<void>;
} {
  const campaign = useCampaign();
  const notices = useNotices();
  const { promo, frame, chosen, run } = usePromo();
  watch(chosen, (now) => {
    if (!(now?.kind === 'title' && now.id === picking.value)) picking.value = '';
  });

  async function pointAt(across: number, down: number): Promise<void> {
    const now = toRaw(promo.value);
    const id = picking.value;
    picking.value = '';
    const title = now?.titles.find((t) => t.id === id);
    if (!now || !title) return;
    const lengthOf = (take: string): number => campaign.takes.find((t) => t.id === take)?.length ?? 0;
    const shown = shownAt(now, frame.value, lengthOf)?.clip;
    const take = campaign.takes.find((t) => t.id === shown?.clip.take);
    if (!shown || !take) {
      notices.refuse('No take is seen here: put the playhead on a clip that shows one.');
      return;
    }
    const [x, y] = pointOfClip(now, shown, campaign.aspect, [across, down]);
    const at = Math.min(take.length - 1, Math.max(0, Math.round(takeTime(shown.clip, shown.at))));
    const from = take.length > MOST ? Math.max(0, at - MOST / 2) : 0;
    following.value = true;
    await notices.guard(async () => {
      const asked = { x, y, frame: at, from, to: Math.min(take.length, from + MOST) - 1 };
      const found = await api<FollowedPoint>('POST', `/takes/${take.id}/follow`, asked);
      const callout: TitleCallout = {
        ...{ line: 0.05, mark: 'ring', rides: false },
        ...title.callout,
        ...{ take: take.id, from: found.from, track: found.track.flat() },
      };
      run(setPart(id, 'Point at the product', 'callout', callout));
    });
    following.value = false;
  }

  return {
    ...{ picking, following, pointAt },
    add: () => {
      if (!promo.value) return;
      const { width, height } = promo.value;
      const stays = Math.round((STAYS * campaign.rate.num) / campaign.rate.den);
      // No longer than what it points at is seen.
      const ends = placedClips(promo.value).map(({ clip, from }) => from + clip.length);
      const left = Math.max(1, (ends.find((end) => end > frame.value) ?? promoLength(promo.value)) - frame.value);
      const title = newTitle(freshId('title'), {
        ...{ text: 'Callout', font: 'hanken-grotesk-500', colour: '#1B0F1E', align: 'left' },
        ...{ start: frame.value, length: Math.min(left, stays), size: Math.round(Math.min(width, height) / 22) },
        ...{ x: 0.66, y: 0.3, arrive: { kind: 'fade', frames: 10 }, leave: { kind: 'fade', frames: 8 } },
        dress: { ...newDress(), box: 1, boxColour: '#F3E3C3', boxPadding: 0.6, boxRadius: 0.5 },
      });
      run(addTitle(title));
      chosen.value = { kind: 'title', id: title.id };
      picking.value = title.id;
    },
  };
}
