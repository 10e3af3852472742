import { ref, shallowReactive, watch, type Ref } from 'vue';
import type { EffectLevel } from '@tender-orbit/core/document';
import { readFrame, type EffectFrame } from '@tender-orbit/core/simulate';
import { api, sentenceOf, type SimulationSummary } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';

/** Frames that are fetched at a time. */
const AT_ONCE = 2;

/** Where a frame lies that the server has simulated. */
interface Place {
  run: string;
  frame: number;
}

export interface ServedFrames {
  /** Whether the server has the frame that is known by a key. */
  has: (key: string) => boolean;
  keys: () => IterableIterator<string>;
  /** Fetches frames that are not there yet, the first of these first. */
  want: (keys: readonly string[]) => void;
  /** Whether an effect of the shot in hand is simulated there at a level, or what came of it is not known here yet. */
  busyWith: (effect: string, level: EffectLevel) => boolean;
  /** Counts frames that were there and are no more: they have to be simulated here. */
  lost: Readonly<Ref<number>>;
}

/**
 * Frames of the shot in hand that the server simulated: which there are, and fetching them.
 * @param take is given each frame that was fetched.
 */
export function useServedFrames(take: (key: string, frame: EffectFrame) => void): ServedFrames {
  const campaign = useCampaign();
  const notices = useNotices();
  const places = shallowReactive(new Map<string, Place>());
  /** Frames that were done when a run's keys were read, and when they were asked for. */
  const read = shallowReactive(new Map<string, number>());
  const askedAt = new Map<string, number>();
  const lost = ref(0);
  const fetching = new Set<string>();
  let waiting: string[] = [];

  const own = (): SimulationSummary[] => campaign.simulations.filter(({ shot }) => shot === campaign.shotId);

  async function readKeys({ id, done }: SimulationSummary): Promise<void> {
    askedAt.set(id, done);
    const keys = await api<string[]>('GET', `/simulation-runs/${id}/keys`).catch(() => []);
    keys.forEach((key, n) => places.set(key, { run: id, frame: n + 1 }));
    // Where they could not be had it is simulated here.
    read.set(id, done);
  }
  function lose(key: string): void {
    places.delete(key);
    lost.value++;
  }
  watch(
    own,
    (runs) => {
      const there = new Set(campaign.simulations.map(({ id }) => id));
      for (const [key, { run }] of places) if (!there.has(run)) lose(key);
      for (const run of runs) if (run.done !== (askedAt.get(run.id) ?? 0)) void readKeys(run);
    },
    { immediate: true },
  );

  async function fetchFrame(key: string, { run, frame }: Place): Promise<void> {
    fetching.add(key);
    try {
      const response = await fetch(`/api/simulation-runs/${run}/frames/${frame}`);
      if (!response.ok) throw new Error(response.statusText);
      take(key, readFrame(new Uint8Array(await response.arrayBuffer())));
    } catch (error) {
      lose(key);
      notices.problem(`A simulated frame could not be fetched: ${sentenceOf(error)}`);
    }
    fetching.delete(key);
    next();
  }
  function next(): void {
    while (fetching.size < AT_ONCE && waiting.length > 0) {
      const key = waiting.shift()!;
      const place = places.get(key);
      if (place && !fetching.has(key)) void fetchFrame(key, place);
    }
  }

  return {
    has: (key) => places.has(key),
    keys: () => places.keys(),
    want: (keys) => {
      waiting = [...keys];
      next();
    },
    busyWith: (effect, level) => {
      const run = own().find((r) => r.effect === effect && r.level === level);
      return run !== undefined && (run.state === 'running' || (read.get(run.id) ?? 0) < run.done);
    },
    lost,
  };
}
