import {
  CLIP_PROPERTIES,
  layerProperties,
  OVERLAY_PROPERTIES,
  SOUND_PROPERTIES,
  TITLE_PROPERTIES,
} from '@tender-orbit/core/document';
import { placedClips, soundSpan } from '@tender-orbit/core/promo';
import { secondsToFrames } from '@tender-orbit/core/time';
import type { Properties } from '@tender-orbit/core/properties';
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue';
import { useCampaign } from '../stores/index.ts';
import type { GraphHost } from '../timeline/graph/graph-host.ts';
import { isNumber, type GraphRow } from '../timeline/graph/graph-lines.ts';
import { keySelection } from '../timeline/key-selection.ts';
import { usePromo } from './use-promo.ts';

/** What of the promo has keys, where in the promo its frame 0 lies, and which of its frames it is there for. */
interface KeyedItem {
  id: string;
  start: number;
  within: readonly [number, number];
  properties: Properties;
}

const selection = keySelection();
const open = ref(false);
/** Values of what is chosen that the graph leaves out. */
const off = ref<ReadonlySet<string>>(new Set());

const COLOURS = ['honey', 'celadon', 'coral', 'violet', 'bone', 'clay', 'steel'].map((name) => `var(--${name})`);

/** The keys of what is chosen in the promo, as a graph shows them. */
export function usePromoGraph(): {
  host: GraphHost;
  item: ComputedRef<KeyedItem | null>;
  /** All numbers of it that have keys, and those that are shown. */
  all: ComputedRef<Array<GraphRow & { label: string }>>;
  rows: ComputedRef<GraphRow[]>;
  open: Ref<boolean>;
  shows: (row: string) => boolean;
  toggle: (row: string) => void;
} {
  const { promo, chosen, length, run } = usePromo();
  const campaign = useCampaign();
  const item = computed((): KeyedItem | null => {
    const document = promo.value;
    if (!document || !chosen.value || !('id' in chosen.value)) return null;
    const { kind, id } = chosen.value;
    if (kind === 'clip') {
      const placed = placedClips(document).find((p) => p.clip.id === id);
      return placed ? { id, start: placed.from, within: [0, placed.clip.length], properties: CLIP_PROPERTIES } : null;
    }
    if (kind === 'layer') {
      const layer = document.layers.find((l) => l.id === id);
      if (!layer) return null;
      const end = layer.length > 0 ? layer.start + layer.length : length.value;
      return {
        id,
        start: 0,
        within: [layer.start, Math.max(end, layer.start + 1)],
        properties: layerProperties(layer.kind),
      };
    }
    if (kind === 'sound') {
      const sound = document.sounds.find((s) => s.id === id);
      if (!sound) return null;
      // Keys of a sound count from its accent.
      const { from, to } = soundSpan(sound, campaign.rate);
      const [first, end] = [from, to].map((seconds) => secondsToFrames(seconds, campaign.rate) - sound.at);
      return { id, start: sound.at, within: [first, end], properties: SOUND_PROPERTIES };
    }
    const [list, properties] =
      kind === 'title' ? [document.titles, TITLE_PROPERTIES] : [document.overlays, OVERLAY_PROPERTIES];
    const found = kind === 'marker' ? undefined : list.find((one) => one.id === id);
    return found ? { id, start: found.start, within: [0, found.length], properties } : null;
  });
  const all = computed(() => {
    const of = item.value;
    if (!of) return [];
    return (promo.value?.tracks ?? [])
      .filter((track) => track.thing === of.id && isNumber(of.properties[track.path]))
      .map((track, n) => ({
        ...{ id: `${track.thing} ${track.path}`, track, property: of.properties[track.path] },
        ...{ label: of.properties[track.path].label, colour: COLOURS[n % COLOURS.length] },
      }));
  });
  watch(
    () => item.value?.id,
    () => selection.clear(),
  );
  return {
    ...{ item, all, open },
    rows: computed(() => all.value.filter(({ id }) => !off.value.has(id))),
    shows: (row) => !off.value.has(row),
    toggle: (row) => {
      const next = new Set(off.value);
      if (!next.delete(row)) next.add(row);
      off.value = next;
    },
    host: {
      ...{ selection, movesInTime: true },
      eases: () => promo.value?.eases ?? [],
      run: (command, gesture) => run(command, gesture),
    },
  };
}
