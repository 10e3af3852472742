import { refDebounced } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, reactive, ref, shallowReactive, watch } from 'vue';
import type { EffectLevel, ProductDocument, SetEffect } from '@tender-orbit/core/document';
import { simulatedBetween, smokeArrays, type EffectFrame } from '@tender-orbit/core/simulate';
import { mayShow, playedFrame, type Simulated } from '@tender-orbit/core/scene';
import { useCampaign } from '../stores/index.ts';
import type { EffectsReply, EffectsRequest } from '../workers/effects-worker.ts';
import { useServedFrames } from './served.ts';

/** How long changes are waited for before effects are simulated anew, ms. */
const CALM = 250;
/** Bytes of frames that are kept. */
const MOST_BYTES = 400_000_000;
/** Frames after the one that is shown that are fetched from the server with it. */
const AHEAD = 3;

const bytesOf = (frame: EffectFrame): number =>
  (frame.kind === 'smoke' ? smokeArrays(frame) : [frame.data, frame.numbers]).reduce(
    (sum, { byteLength }) => sum + byteLength,
    0,
  );

/** Frames of an effect by what they are known by. */
interface Course {
  level: EffectLevel;
  keys: readonly string[];
}

/**
 * Simulated things of the shot in hand: they are simulated in a worker at the level that is looked at, from the first frame that a
 * change touches, while the person goes on.
 */
export const useEffects = defineStore('effects', () => {
  const campaign = useCampaign();
  const courses = shallowReactive(new Map<string, Course>());
  const frames = shallowReactive(new Map<string, EffectFrame>());
  const problems = shallowReactive(new Map<string, string>());
  /** The level that each effect is looked at; coarse unless the person chose another. */
  const levels = reactive(new Map<string, EffectLevel>());
  const working = ref('');
  /** Milliseconds that the last frame took, by effect. */
  const pace = shallowReactive(new Map<string, number>());
  let worker: Worker | null = null;
  let ticket = 0;
  let bytes = 0;

  const served = useServedFrames((key, frame) => {
    if (!frames.has(key)) keep(key, frame);
  });
  const isThere = (key: string): boolean => frames.has(key) || served.has(key);

  const effects = computed((): readonly SetEffect[] => campaign.set?.effects ?? []);
  const levelOf = (id: string): EffectLevel => levels.get(id) ?? 'coarse';

  function take(reply: EffectsReply): void {
    if (reply.id !== ticket) return;
    if (reply.kind === 'keys') {
      courses.set(reply.effect, { level: reply.level, keys: reply.keys });
      problems.delete(reply.effect);
      working.value = reply.effect;
    } else if (reply.kind === 'frame') {
      keep(reply.key, reply.frame);
      pace.set(reply.effect, reply.milliseconds);
    } else if (reply.kind === 'problem') problems.set(reply.effect, reply.message);
    else working.value = '';
  }

  function keep(key: string, frame: EffectFrame): void {
    frames.set(key, frame);
    keyOf.set(frame, key);
    bytes += bytesOf(frame);
    if (bytes <= MOST_BYTES) return;
    const needed = new Set([...courses.values()].flatMap(({ keys }) => keys));
    for (const [other, old] of frames) {
      if (bytes <= MOST_BYTES) break;
      if (other === key || (needed.has(other) && !served.has(other))) continue;
      frames.delete(other);
      bytes -= bytesOf(old);
    }
  }

  /** What is simulated on the server just now is not simulated here as well. */
  function asked(id: string): EffectsRequest['effects'][number] {
    const level = levelOf(id);
    return { id, level, elsewhere: served.busyWith(id, level) };
  }
  /** All that effects follow from; a new object whenever any of it changes. */
  const source = computed(() => {
    const { set, shot, products, aspect, rate } = campaign;
    if (!set || !shot) return null;
    const shown = effects.value.filter((e) => mayShow(e, shot));
    if (shown.length === 0) return null;
    const lost = served.lost.value;
    return { set, shot, products, aspect, rate, lost, effects: shown.map(({ id }) => asked(id)) };
  });
  const calm = refDebounced(source, CALM);
  watch(
    calm,
    (now) => {
      if (!now) return;
      ticket++;
      worker ??= startWorker();
      // Documents are proxies in here; a worker gets plain ones.
      const { products, ...rest } = now;
      const plain = JSON.parse(JSON.stringify(rest)) as Omit<EffectsRequest, 'id' | 'products' | 'known'>;
      const request: EffectsRequest = {
        ...plain,
        id: ticket,
        products: new Map(JSON.parse(JSON.stringify([...products])) as Array<[string, ProductDocument]>),
        known: new Set([...frames.keys(), ...served.keys()]),
      };
      worker.postMessage(request);
    },
    { immediate: true },
  );
  function startWorker(): Worker {
    const made = new Worker(new URL('../workers/effects-worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = ({ data }: MessageEvent<EffectsReply>) => take(data);
    return made;
  }

  const keyOf = new WeakMap<EffectFrame, string>();
  const between = new Map<string, { key: string; shown: Simulated }>();
  const drawn = new WeakMap<EffectFrame, Simulated>();
  /** What is simulated of an effect at one of its frames; of the latest one that is there while that is still worked on. */
  function simulatedAt(effect: string, at: number): Simulated | undefined {
    const course = courses.get(effect);
    if (!course) return undefined;
    const frameAt = (n: number): EffectFrame | undefined =>
      frames.get(course.keys[Math.min(n, course.keys.length - 1)]);
    const [low, share] = [Math.floor(at), at - Math.floor(at)];
    let first = frameAt(low);
    fetchAround(course, low, share > 0);
    for (let back = 1; !first && back <= low; back++) first = frameAt(low - back);
    if (!first) return undefined;
    const second = share > 0 ? frameAt(low + 1) : undefined;
    if (second) return mixed(effect, first, second, share, `${course.keys[low]} ${share}`);
    let known = drawn.get(first);
    if (!known) drawn.set(first, (known = simulatedBetween(first, first, 0, keyOf.get(first))));
    return known;
  }
  /** Fetches what the server has of the frames that are shown now and soon. */
  function fetchAround({ keys }: Course, low: number, both: boolean): void {
    const near = keys.slice(low, low + AHEAD + 1);
    if (!near.slice(0, both ? 2 : 1).every((key) => frames.has(key) || !served.has(key)))
      served.want(near.filter((key) => !frames.has(key)));
  }
  /** The same object as long as the same is asked for, so that it is drawn once. */
  function mixed(effect: string, a: EffectFrame, b: EffectFrame, share: number, key: string): Simulated {
    const known = between.get(effect);
    if (known?.key === key) return known.shown;
    const shown = simulatedBetween(a, b, share, key);
    between.set(effect, { key, shown });
    return shown;
  }

  /** Which frames of the shot have what they show simulated; counted from the shot's first. */
  function ripe(effect: string): boolean[] {
    const course = courses.get(effect);
    const thing = effects.value.find((e) => e.id === effect);
    const length = campaign.shot?.length ?? 0;
    if (!course || !thing) return [];
    return Array.from({ length }, (_, frame) => {
      const at = playedFrame(thing, frame, length);
      if (at === null) return true;
      // A frame between two simulated ones needs both; at its beginning there is nothing to simulate.
      return [Math.floor(at), Math.ceil(at)].every((n) => n <= 0 || isThere(course.keys[n]));
    });
  }
  /** Share of the frames of an effect that are there. */
  function share(effect: string): number {
    const keys = courses.get(effect)?.keys;
    return keys && keys.length > 1 ? keys.slice(1).filter(isThere).length / (keys.length - 1) : 0;
  }
  return { effects, levels, levelOf, problems, pace, working, simulatedAt, ripe, share };
});
