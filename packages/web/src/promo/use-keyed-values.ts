import { keyValue, toggleKey } from '@tender-orbit/core/document';
import type { NumberProperty } from '@tender-orbit/core/properties';
import { computed, type ComputedRef } from 'vue';
import { usePromo } from './use-promo.ts';

/** Something of the promo whose values keys can hold. */
export interface Keyable<V> {
  /** Its id: its keys are tracks of that thing. */
  thing: () => string;
  /** What it is called in what is undone. */
  noun: string;
  /** The frame of the promo that its keys count from, how many it has, and the first of them: missing 0. */
  span: () => { start: number; length: number; first?: number };
  properties: Readonly<Record<keyof V & string, NumberProperty>>;
  /** Its values at frames of its own. */
  values: () => (at: number) => V;
  /** Sets values that no keys hold for all of it. */
  plain: (label: string, values: Partial<V>, gesture: string) => void;
  /** Before it is keyed. */
  prepare?: (gesture: string) => void;
}

export interface KeyedValues<V> {
  /** The playhead in frames of its own; where it is elsewhere, the nearest frame of it. */
  at: ComputedRef<number>;
  now: ComputedRef<V>;
  keyed: (path: keyof V & string) => 'key' | 'track' | 'none';
  /** Sets values for all of it, or where they are keyed at the playhead. */
  set: (values: Partial<V>, gesture: string, label?: string) => void;
  /** Keys a value at the playhead, or takes its key away. */
  key: (path: keyof V & string) => void;
}

/** Values at the playhead of something of the promo, and the keys of these. */
export function useKeyedValues<V extends object>(of: Keyable<V>): KeyedValues<V> {
  const { promo, frame, run } = usePromo();
  type Path = keyof V & string;
  const at = computed(() => {
    const { start, length, first = 0 } = of.span();
    return Math.min(first + length - 1, Math.max(first, frame.value - start));
  });
  const now = computed(() => of.values()(at.value));
  const keyed = (path: Path): 'key' | 'track' | 'none' => {
    const track = promo.value?.tracks.find((t) => t.thing === of.thing() && t.path === path);
    if (!track) return 'none';
    return track.keys.some((k) => k.frame === at.value) ? 'key' : 'track';
  };
  return {
    ...{ at, now, keyed },
    set: (values, gesture, label = '') => {
      const plain: Partial<V> = {};
      for (const path of Object.keys(values) as Path[]) {
        const words = label || `Change ${of.properties[path].label.toLowerCase()} of ${of.noun}`;
        const value = values[path] as number;
        if (keyed(path) === 'none') plain[path] = value as V[Path];
        else run(keyValue({ thing: of.thing(), path, frame: at.value }, value, words), gesture);
      }
      const [first] = Object.keys(plain) as Path[];
      if (first) of.plain(label || `Change ${of.properties[first].label.toLowerCase()} of ${of.noun}`, plain, gesture);
    },
    key: (path) => {
      const gesture = `key-${Date.now()}`;
      of.prepare?.(gesture);
      const value = now.value[path] as number;
      const words = of.properties[path].label.toLowerCase();
      run(toggleKey({ thing: of.thing(), path, frame: at.value }, value, words), gesture);
    },
  };
}
