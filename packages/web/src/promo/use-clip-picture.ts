import {
  CLIP_PROPERTIES,
  newClipPicture,
  setClipPicture,
  type Clip,
  type ClipPath,
  type ClipPicture,
} from '@tender-orbit/core/document';
import { clipValues, placedClips } from '@tender-orbit/core/promo';
import { computed, toRaw, type ComputedRef } from 'vue';
import { useKeyedValues, type KeyedValues } from './use-keyed-values.ts';
import { usePromo } from './use-promo.ts';

/** How a clip's picture lies at the playhead; `from` is the clip's first frame in the promo. */
export function useClipPicture(
  clip: () => Clip,
): KeyedValues<Pick<ClipPicture, ClipPath>> & { from: ComputedRef<number> } {
  const { promo, run } = usePromo();
  const from = computed(() => placedClips(promo.value!).find((p) => p.clip.id === clip().id)?.from ?? 0);
  const keys = useKeyedValues<Pick<ClipPicture, ClipPath>>({
    ...{ thing: () => clip().id, noun: 'clip', properties: CLIP_PROPERTIES },
    span: () => ({ start: from.value, length: clip().length }),
    values: () => {
      const { id, picture = newClipPicture() } = clip();
      return clipValues({ id, picture }, toRaw(promo.value!));
    },
    plain: (label, values, gesture) => run(setClipPicture(clip().id, label, values), gesture),
    // What is keyed needs a picture that its keys are of.
    prepare: (gesture) => clip().picture ?? run(setClipPicture(clip().id, 'Key picture', {}), gesture),
  });
  return { ...keys, from };
}
