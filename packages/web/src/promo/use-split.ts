import { computed, type ComputedRef } from 'vue';
import { splitClip } from '@tender-orbit/core/document';
import { halvesOf, placedClips } from '@tender-orbit/core/promo';
import { freshId } from '../things/fresh-id.ts';
import { usePromo } from './use-promo.ts';

/** Splits the clip under the playhead there. */
export function useSplit(): { splittable: ComputedRef<boolean>; split: () => void } {
  const { promo, frame, chosen, run } = usePromo();
  const under = computed(() => {
    const found =
      promo.value && placedClips(promo.value).find((p) => frame.value > p.from && frame.value < p.from + p.clip.length);
    return found && { clip: found.clip, at: frame.value - found.from };
  });
  return {
    splittable: computed(() => under.value !== undefined),
    split: () => {
      if (!under.value) return;
      const { clip, at } = under.value;
      const [first, second] = halvesOf(clip, at);
      const id = freshId('clip');
      run(splitClip(clip.id, at, id, second, first));
      chosen.value = { kind: 'clip', id };
    },
  };
}
