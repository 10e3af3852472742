import {
  deleteKeys,
  keyAt,
  keyValue,
  mirrorKeys,
  moveKeys,
  nextKey,
  pastedAt,
  pasteKeys,
  retimeKeys,
  reverseKeys,
  stretched,
  stretchKeys,
  takeKeys,
  type Command,
  type KeyClip,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { beatsBetween } from '@tender-orbit/core/time';
import { computed, shallowRef, type ComputedRef } from 'vue';
import { useHandlers } from '../actions/index.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSelection, useStage } from '../stores/index.ts';
import { useKeySelection, type ChosenKey } from './use-key-selection.ts';
import { useShotBeats } from './use-shot-beats.ts';

/** Keys that were copied; they outlast the shot that they were taken from. */
const clip = shallowRef<KeyClip | null>(null);
/** What of a thing says where it stands. */
const PLACE_PATHS = [
  ...['position.0', 'position.1', 'position.2', 'aim.0', 'aim.1', 'aim.2'],
  ...['turn', 'tilt', 'roll'],
] as const;
/** Most keys that are pasted at once; a document holds 10,000 a thread. */
const MOST_KEYS = 10_000;

/** What is done with the keys that are chosen, and with the playhead among keys. */
export function useKeyTools(): {
  shift: (by: number) => void;
  remove: () => void;
  copy: () => void;
  pasteAt: (frame: number) => void;
  duplicate: () => void;
  /** Runs a command on the chosen keys, which stay chosen where they went. */
  turned: (command: (keys: ChosenKey[]) => Command<ShotDocument>, to: (frame: number) => number) => void;
  /** Frames of the first and last chosen key, and between them. */
  ends: ComputedRef<{ first: number; last: number }>;
  span: ComputedRef<number>;
  stretchTo: (frames: number, gesture: string) => void;
  fitToBeats: () => void;
  landOnBar: () => void;
  jump: (way: 1 | -1) => void;
  /** Keys values of the things in hand at the playhead. */
  keyAll: (paths: (thing: string) => readonly string[], label: string) => void;
  moving: (thing: string) => string[];
  inHand: () => string[];
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const playhead = usePlayhead();
  const selection = useKeySelection();
  const things = useSelection();
  const stage = useStage();
  const grid = useShotBeats();
  const run = (command: Command<ShotDocument>, gesture = ''): void =>
    documents.run('shot', campaign.shotId, command, gesture);

  function shift(by: number): void {
    const chosen = selection.list();
    if (by === 0 || chosen.some((k) => k.frame + by < 0)) return;
    run(moveKeys(chosen, by));
    selection.replace(chosen.map((k) => ({ ...k, frame: k.frame + by })));
  }
  function remove(): void {
    run(deleteKeys(selection.list()));
    selection.clear();
  }
  function copy(): void {
    if (campaign.shot) clip.value = takeKeys(campaign.shot, selection.list());
  }
  function pasteAt(frame: number): void {
    if (!clip.value) return;
    const places = pastedAt(clip.value, frame);
    if (places.length > MOST_KEYS) {
      notices.refuse(`${places.length} keys are too many to paste at once: choose at most ${MOST_KEYS}.`);
      return;
    }
    run(pasteKeys(clip.value, frame));
    selection.replace(places);
    if (frame + clip.value.length > (campaign.shot?.length ?? 0))
      notices.done('Some pasted keys lie beyond the end of the shot: make it longer to see them.');
  }
  function duplicate(): void {
    const frames = selection.list().map((k) => k.frame);
    copy();
    pasteAt(Math.max(...frames) + 1);
  }
  /** Keys stay chosen where they went. */
  function turned(command: (keys: ChosenKey[]) => Command<ShotDocument>, to: (frame: number) => number): void {
    const chosen = selection.list();
    run(command(chosen));
    selection.replace(chosen.map((k) => ({ ...k, frame: to(k.frame) })));
  }
  const ends = computed(() => {
    const frames = selection.list().map((k) => k.frame);
    return { first: Math.min(...frames), last: Math.max(...frames) };
  });
  const span = computed(() => (selection.count.value > 1 ? ends.value.last - ends.value.first : 0));
  function stretchTo(frames: number, gesture: string): void {
    if (span.value === 0) return;
    const { first, last } = ends.value;
    const factor = Math.max(1, frames) / span.value;
    const chosen = selection.list();
    // About the playhead where it lies among them and no key would come to lie before the shot; about the first otherwise.
    const inside = playhead.frame > first && playhead.frame <= last;
    const about = inside && stretched(first, playhead.frame, factor) >= 0 ? playhead.frame : first;
    run(stretchKeys(chosen, about, factor), gesture);
    selection.replace(chosen.map((k) => ({ ...k, frame: stretched(k.frame, about, factor) })));
  }

  const beats = (): Array<{ frame: number; beat: number }> =>
    grid.value ? beatsBetween(grid.value, campaign.rate, 0, (campaign.shot?.length ?? 0) + 400) : [];
  /** Each frame with keys goes to a beat, the nearest that is later than the one before it. */
  function fitToBeats(): void {
    const chosen = selection.list();
    const frames = [...new Set(chosen.map((k) => k.frame))].sort((a, b) => a - b);
    const all = beats().map((b) => Math.round(b.frame));
    const to = new Map<number, number>();
    let after = -1;
    for (const frame of frames) {
      const left = all.filter((b) => b > after);
      if (left.length === 0) {
        notices.refuse('The music has fewer beats after these keys than there are keys: choose fewer, or move them.');
        return;
      }
      after = left.reduce((best, b) => (Math.abs(b - frame) < Math.abs(best - frame) ? b : best));
      to.set(frame, after);
    }
    turned(
      (keys) => retimeKeys(keys, to, 'Fit keys to beats'),
      (frame) => to.get(frame) ?? frame,
    );
  }
  /** The key that ends the span of each chosen key goes to the first beat of the next bar. */
  function landOnBar(): void {
    const gesture = `land-${Date.now()}`;
    for (const { thing, path, frame } of selection.list()) {
      const track = campaign.shot?.tracks.find((t) => t.thing === thing && t.path === path);
      const next = track?.keys.find((k) => k.frame > frame);
      const beyond = track?.keys.find((k) => next && k.frame > next.frame)?.frame ?? Infinity;
      const bar = beats().find((b) => b.beat === 1 && b.frame > frame + 1);
      if (!next || !bar || Math.round(bar.frame) >= beyond) continue;
      run(moveKeys([{ thing, path, frame: next.frame }], Math.round(bar.frame) - next.frame), gesture);
    }
  }

  /** Things that are chosen, or the one whose details are open. */
  const inHand = (): string[] => things.all;
  function jump(way: 1 | -1): void {
    const to = campaign.shot && nextKey(campaign.shot, playhead.frame, way, inHand());
    if (to !== null && to !== undefined) playhead.seek(Math.round(to), campaign.shot!.length);
  }
  /** Keys values of all things in hand at the playhead, in one step. */
  function keyAll(paths: (thing: string) => readonly string[], label: string): void {
    const gesture = `keys-${Date.now()}`;
    for (const thing of inHand())
      for (const path of paths(thing)) {
        const value = stage.value(thing, path);
        const track = campaign.shot?.tracks.find((t) => t.thing === thing && t.path === path);
        if (value === undefined || keyAt(track, playhead.frame)) continue;
        run(keyValue({ thing, path, frame: playhead.frame }, value, label), gesture);
      }
  }
  const moving = (thing: string): string[] =>
    campaign.shot?.tracks.filter((t) => t.thing === thing).map((t) => t.path) ?? [];
  return {
    ...{ shift, remove, copy, pasteAt, duplicate, turned, span, ends, stretchTo, fitToBeats, landOnBar, jump, keyAll },
    ...{ moving, inHand },
  };
}

/** The actions of the keys that are chosen; for the station to give once. */
export function useKeyActions(): void {
  const stage = useStage();
  const playhead = usePlayhead();
  const selection = useKeySelection();
  const grid = useShotBeats();
  const tools = useKeyTools();
  const some = { enabled: () => selection.count.value > 0 };
  const several = { enabled: () => selection.count.value > 1 };
  const withThings = { enabled: () => tools.inHand().length > 0 };
  useHandlers({
    'key.delete': { run: tools.remove, ...some },
    'key.copy': { run: tools.copy, ...some },
    'key.paste': { run: () => tools.pasteAt(playhead.frame), enabled: () => clip.value !== null },
    'key.duplicate': { run: tools.duplicate, ...some },
    'key.reverse': {
      run: () => tools.turned(reverseKeys, (frame) => tools.ends.value.first + tools.ends.value.last - frame),
      ...several,
    },
    'key.mirror': { run: () => tools.turned(mirrorKeys, (frame) => frame), ...several },
    'key.on': { run: () => tools.shift(1), ...some },
    'key.back': { run: () => tools.shift(-1), ...some },
    'key.next': () => tools.jump(1),
    'key.previous': () => tools.jump(-1),
    'key.place': { run: () => tools.keyAll(() => PLACE_PATHS, 'Key place'), ...withThings },
    'key.moving': { run: () => tools.keyAll(tools.moving, 'Key what moves'), ...withThings },
    'key.beats': { run: tools.fitToBeats, enabled: () => grid.value !== null && selection.count.value > 0 },
    'moves.record': {
      run: () => void (stage.recording = !stage.recording),
      label: () => (stage.recording ? 'Stop recording keys' : 'Record keys'),
    },
  });
}
