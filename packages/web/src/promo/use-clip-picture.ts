import {
  CLIP_PROPERTIES,
  keyValue,
  newClipPicture,
  setClipPicture,
  toggleKey,
  type Clip,
  type ClipPath,
  type ClipPicture,
} from '@tender-orbit/core/document';
import { clipValues, placedClips } from '@tender-orbit/core/promo';
import { computed, toRaw, type ComputedRef } from 'vue';
import { usePromo } from './use-promo.ts';

export interface ClipPictureKeys {
  /** First frame of the clip in the promo. */
  from: ComputedRef<number>;
  /** The playhead in frames of the clip; where it is elsewhere, the nearest frame of it. */
  at: ComputedRef<number>;
  now: ComputedRef<ClipPicture>;
  keyed: (path: ClipPath) => 'key' | 'track' | 'none';
  /** Sets a value for all of the clip, or where it is keyed at the playhead. */
  set: (path: ClipPath, value: number, gesture: string) => void;
  /** Keys a value at the playhead, or takes its key away. */
  key: (path: ClipPath) => void;
}

/** How a clip's picture lies at the playhead. */
export function useClipPicture(clip: () => Clip): ClipPictureKeys {
  const { promo, frame, run } = usePromo();
  const from = computed(() => placedClips(promo.value!).find((p) => p.clip.id === clip().id)?.from ?? 0);
  const at = computed(() => Math.min(clip().length - 1, Math.max(0, frame.value - from.value)));
  const now = computed(() => {
    const { id, picture = newClipPicture() } = clip();
    return clipValues({ id, picture }, toRaw(promo.value!))(at.value);
  });
  const keyed: ClipPictureKeys['keyed'] = (path) => {
    const track = promo.value?.tracks.find((t) => t.thing === clip().id && t.path === path);
    if (!track) return 'none';
    return track.keys.some((k) => k.frame === at.value) ? 'key' : 'track';
  };
  return {
    ...{ from, at, now, keyed },
    set: (path, value, gesture) => {
      const { id } = clip();
      const label = `Change ${CLIP_PROPERTIES[path].label.toLowerCase()} of clip`;
      if (keyed(path) === 'none') run(setClipPicture(id, label, { [path]: value }), gesture);
      else run(keyValue({ thing: id, path, frame: at.value }, value, label), gesture);
    },
    key: (path) => {
      const { id, picture } = clip();
      const gesture = `key-${Date.now()}`;
      // What is keyed needs a picture that its keys are of.
      if (!picture) run(setClipPicture(id, 'Key picture', {}), gesture);
      const label = CLIP_PROPERTIES[path].label.toLowerCase();
      run(toggleKey({ thing: id, path, frame: at.value }, now.value[path], label), gesture);
    },
  };
}
