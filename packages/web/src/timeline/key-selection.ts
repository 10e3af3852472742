import { computed, ref, type ComputedRef } from 'vue';

export interface ChosenKey {
  thing: string;
  path: string;
  frame: number;
}
type TrackName = Pick<ChosenKey, 'thing' | 'path'>;

/** Keys that are chosen on a timeline. */
export interface KeySelection {
  count: ComputedRef<number>;
  has: (track: TrackName, frame: number) => boolean;
  only: (track: TrackName, frame: number) => void;
  toggle: (track: TrackName, frame: number) => void;
  list: () => ChosenKey[];
  replace: (keys: ChosenKey[]) => void;
  clear: () => void;
}

const nameOf = (k: ChosenKey): string => `${k.thing} ${k.path} ${k.frame}`;

/** A selection in which nothing is chosen yet. */
export function keySelection(): KeySelection {
  const chosen = ref(new Map<string, ChosenKey>());
  const keyOf = ({ thing, path }: TrackName, frame: number): ChosenKey => ({ thing, path, frame });
  const replace = (keys: ChosenKey[]): void => {
    chosen.value = new Map(keys.map((k) => [nameOf(k), k]));
  };
  return {
    count: computed(() => chosen.value.size),
    has: (track, frame) => chosen.value.has(nameOf(keyOf(track, frame))),
    only: (track, frame) => replace([keyOf(track, frame)]),
    toggle: (track, frame) => {
      const key = keyOf(track, frame);
      const next = new Map(chosen.value);
      if (!next.delete(nameOf(key))) next.set(nameOf(key), key);
      chosen.value = next;
    },
    list: () => [...chosen.value.values()],
    replace,
    clear: () => replace([]),
  };
}
