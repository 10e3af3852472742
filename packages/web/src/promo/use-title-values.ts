import {
  keyValue,
  ownTitleValues,
  saidOfTitle,
  TITLE_PROPERTIES,
  titleTracks,
  toggleKey,
  type PromoDocument,
  type Title,
  type TitlePath,
  type TitleValues,
} from '@tender-orbit/core/document';
import { titleValues } from '@tender-orbit/core/promo';
import { computed, toRaw, type ComputedRef } from 'vue';
import { usePromo } from './use-promo.ts';

export interface TitleKeys {
  /** The playhead in frames of the title; where it is elsewhere, the nearest frame of it. */
  at: ComputedRef<number>;
  now: ComputedRef<TitleValues>;
  keyed: (path: TitlePath) => 'key' | 'track' | 'none';
  /** Sets values for all of the title, or where they are keyed at the playhead. */
  set: (label: string, values: Partial<TitleValues>, gesture: string) => void;
  /** Keys a value at the playhead, or takes its key away. */
  key: (path: TitlePath) => void;
}

/** Values of a title at the playhead, which keys can hold. */
export function useTitleValues(title: () => Title): TitleKeys {
  const { promo, frame, run, editTitle } = usePromo();
  const at = computed(() => Math.min(title().length - 1, Math.max(0, frame.value - title().start)));
  const now = computed(() =>
    promo.value ? titleValues(toRaw(title()), toRaw(promo.value))(at.value) : ownTitleValues(title()),
  );
  const tracks = computed(() =>
    titleTracks(promo.value ?? ({ tracks: [] } as Pick<PromoDocument, 'tracks'>), title().id),
  );
  const keyed: TitleKeys['keyed'] = (path) => {
    const track = tracks.value.find((t) => t.path === path);
    if (!track) return 'none';
    return track.keys.some((k) => k.frame === at.value) ? 'key' : 'track';
  };
  return {
    ...{ at, now, keyed },
    set: (label, values, gesture) => {
      const { id } = title();
      const plain: Partial<Title> = {};
      for (const [path, value] of Object.entries(values) as Array<[TitlePath, number]>)
        if (keyed(path) === 'none') Object.assign(plain, saidOfTitle(path, value));
        else run(keyValue({ thing: id, path, frame: at.value }, value, label), gesture);
      if (Object.keys(plain).length > 0) editTitle(id, label, plain, gesture);
    },
    key: (path) =>
      run(
        toggleKey(
          { thing: title().id, path, frame: at.value },
          now.value[path],
          TITLE_PROPERTIES[path].label.toLowerCase(),
        ),
      ),
  };
}
