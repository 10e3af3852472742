import {
  carryClips,
  changeClips,
  changeMarker,
  shiftItems,
  type ClipChange,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { computed, toRaw, type Ref } from 'vue';
import { placedClips, rollCut, slideClip, slipClip, trimStart } from '@tender-orbit/core/promo';
import { KIT_SECONDS } from '@tender-orbit/core/audio';
import { framesToSeconds, snapToBeat } from '@tender-orbit/core/time';
import { useCampaign, useRack } from '../stores/index.ts';
import { frameUnder } from '../timeline/lane.ts';
import { usePromo } from './use-promo.ts';
import { useRowChange } from './use-row-change.ts';

/** What is dragged on the promo's time line. */
export type DragKind = 'clip' | 'title' | 'sound' | 'overlay' | 'layer' | 'marker';

/** What dragging a clip does: its place in the order and its length, the cut alone, its frames in the same place, or its place between its neighbours. */
export const TRIM_TOOLS = ['arrange', 'roll', 'slip', 'slide'] as const;
export type TrimTool = (typeof TRIM_TOOLS)[number];

interface Span {
  start?: number;
  length?: number;
}

export interface PromoDragSurface {
  lanes: Ref<HTMLElement | undefined>;
  /** Frames that the lanes show now. */
  span: Readonly<Ref<number>>;
  /** Set to a length while something is dragged, so that the time line keeps its scale. */
  held: Ref<number | null>;
  snap: Readonly<Ref<boolean>>;
  tool: Readonly<Ref<TrimTool>>;
}

export interface PromoDrag {
  /** @param start its first frame, or that of a sound's accent. @param frames how long it is; of a sound seconds. */
  down: (event: PointerEvent, kind: DragKind, id: string, start: number, frames: number) => void;
  move: (event: PointerEvent) => void;
  up: () => void;
  onKey: (event: KeyboardEvent, kind: DragKind, id: string, start: number, frames: number) => void;
}

/** Clips, titles, overlays and sounds carried, stretched and nudged on the promo's time line. */
export function usePromoDrag({ lanes, span, held, snap, tool }: PromoDragSurface): PromoDrag {
  const campaign = useCampaign();
  const rack = useRack();
  const {
    promo,
    length,
    grid,
    chosen,
    frame,
    run,
    alsoChosen,
    choose,
    chosenClips,
    chosenItems,
    sourceOf,
    editTitle,
    editOverlay,
    editSound,
    editSource,
    removeChosen,
  } = usePromo();
  const rows = useRowChange();
  const clips = computed(() => (promo.value ? placedClips(promo.value) : []));

  type Part = 'body' | 'start' | 'end';
  let drag: {
    kind: DragKind;
    id: string;
    part: Part;
    grab: number;
    start: number;
    length: number;
    gesture: string;
    /** The clips as they were, and the frames by which their keys have come earlier since. */
    clips: PromoDocument;
    shifts: Map<string, number>;
    /** Frames by which all that is chosen has been carried. */
    shifted: number;
  } | null = null;

  /** The nearest beat, cut, marker or the playhead, where one is near; a clip's own cuts move with it and do not count. */
  function snapped(at: number, event: PointerEvent): number {
    const whole = Math.round(at);
    if (!snap.value || event.altKey) return whole;
    const reach = Math.max(2, span.value / 80);
    const cuts =
      drag?.kind === 'clip' && tool.value === 'arrange'
        ? []
        : clips.value.flatMap(({ from, clip }) => [from, from + clip.length]);
    const beat = grid.value ? [snapToBeat(grid.value, campaign.rate, whole, reach)] : [];
    const marks = (promo.value?.markers ?? []).flatMap((m) => (m.id === drag?.id ? [] : [m.at]));
    const near = [...beat.filter((to) => to !== whole), ...cuts, ...marks, frame.value].filter(
      (to) => Math.abs(to - at) <= reach,
    );
    return near.reduce((best, to) => (Math.abs(to - at) < Math.abs(best - at) ? to : best), near[0] ?? whole);
  }
  function pointed(event: PointerEvent): number {
    return frameUnder(event.clientX, lanes.value!.getBoundingClientRect(), span.value);
  }
  function down(event: PointerEvent, kind: DragKind, id: string, start: number, frames: number): void {
    if (event.button !== 0) return;
    const part = ((event.target as HTMLElement).dataset.part as Part) ?? 'body';
    if (event.shiftKey && chosenItems.value.length > 0) {
      const next = new Set(alsoChosen.value);
      if (!next.delete(id)) next.add(id);
      alsoChosen.value = next;
      return;
    }
    // A press on one of several that are chosen leaves them chosen; with Alt one of a group is taken by itself.
    if (!chosenItems.value.includes(id)) {
      if (event.altKey) chosen.value = { kind, id };
      else choose({ kind, id });
    }
    if (kind === 'layer' && alsoChosen.value.size === 0) rack.chosen = id;
    held.value = length.value;
    drag = {
      ...{ kind, id, part, grab: pointed(event), start, length: frames, gesture: `promo-${Date.now()}` },
      ...{ clips: toRaw(promo.value!), shifts: new Map(), shifted: 0 },
    };
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }
  function move(event: PointerEvent): void {
    if (!drag || event.buttons !== 1) return;
    const by = pointed(event) - drag.grab;
    if (Math.abs(by) < 0.4 && !['clip', 'overlay'].includes(drag.kind)) return;
    const changesRow = drag.part === 'body' && tool.value === 'arrange' && chosenItems.value.length <= 1;
    if (changesRow && rows.over(event, drag.kind)) return;
    if (Math.abs(by) < 0.4) return;
    if (drag.part === 'body' && drag.kind !== 'clip' && chosenItems.value.length > 1) return moveAll(by, event);
    if (drag.kind !== 'sound' && drag.kind !== 'clip') moveSpan(by, event);
    else if (drag.kind === 'sound') moveSound(by, event);
    else moveClip(by, event);
  }
  /** All but clips and sounds have a beginning and a length of their own. */
  function editSpan(kind: DragKind, id: string, label: string, values: Span, gesture: string): void {
    const { start, ...rest } = values;
    if (kind === 'title') editTitle(id, `${label} title`, values, gesture);
    else if (kind === 'overlay') editOverlay(id, `${label} overlay`, values, gesture);
    else if (kind === 'marker')
      run(changeMarker(id, `${label} marker`, { ...rest, ...(start !== undefined && { at: start }) }), gesture);
    else {
      const layer = rack.layers.find((l) => l.id === id);
      // What is carried keeps its keys where they are in it.
      if (layer && rest.length === undefined && start !== undefined) rack.shift(layer, start, gesture);
      else if (layer) rack.change(layer, `${label} layer`, values, gesture);
    }
  }
  function moveSpan(by: number, event: PointerEvent): void {
    const { kind, id, gesture, part, start, length: frames } = drag!;
    const editing = (label: string, values: Span): void => editSpan(kind, id, label, values, gesture);
    if (part === 'body') editing('Move', { start: Math.max(0, snapped(start + by, event)) });
    else if (part === 'end')
      editing('Change length of', { length: Math.max(1, snapped(start + frames + by, event) - start) });
    else {
      const from = Math.min(start + frames - 1, Math.max(0, snapped(start + by, event)));
      editing('Change start of', { start: from, length: start + frames - from });
    }
  }
  /** All that is chosen is carried as one; what is grasped of it lands on beats. */
  function moveAll(by: number, event: PointerEvent): void {
    const { start, gesture } = drag!;
    const wanted = snapped(start + by, event) - start;
    if (wanted === drag!.shifted) return;
    const first = firstOf(drag!.id);
    run(shiftItems(chosenItems.value, wanted - drag!.shifted), gesture);
    drag!.shifted += firstOf(drag!.id) - first;
  }
  /** Where something of a row begins now. */
  function firstOf(id: string): number {
    const { titles, overlays, layers, sounds, markers } = promo.value!;
    const span = [...titles, ...overlays, ...layers].find((item) => item.id === id);
    return span?.start ?? [...sounds, ...markers].find((item) => item.id === id)?.at ?? 0;
  }
  /** The body is carried by its accent, which lands on beats; the right edge changes how long it is. */
  function moveSound(by: number, event: PointerEvent): void {
    const { id, part, start, length: seconds, gesture } = drag!;
    if (part === 'body') editSound(id, 'Move sound', { at: Math.max(0, snapped(start + by, event)) }, gesture);
    else stretchSound(id, seconds + framesToSeconds(by, campaign.rate), gesture);
  }
  function stretchSound(id: string, seconds: number, gesture: string): void {
    const source = promo.value?.sounds.find((s) => s.id === id)?.source;
    if (!source) return;
    const { least, most } = source.kind === 'made' ? KIT_SECONDS : { least: 0.01, most: 36000 };
    editSource(id, 'Change sound length', { seconds: Math.min(most, Math.max(least, seconds)) }, gesture);
  }
  /** Edges change the length, or with another tool the cut; the body goes to another place, or shows other frames. */
  function moveClip(by: number, event: PointerEvent): void {
    const { id, part, start, length: frames, clips: before } = drag!;
    const clip = before.clips.find((c) => c.id === id)!;
    const next = before.clips[before.clips.indexOf(clip) + 1];
    if (part === 'body' && tool.value === 'slip') {
      const length = sourceOf(clip.take)?.length ?? 1;
      trim('Slip clip', [slipClip(clip, -by, length)]);
    } else if (part === 'body' && tool.value === 'slide') {
      trim('Slide clip', slideClip(before, id, snapped(start + by, event) - start));
    } else if (part !== 'body' && tool.value === 'roll') {
      const cut = part === 'end' ? next : clip;
      const at = part === 'end' ? start + frames : start;
      if (cut) trim('Roll cut', rollCut(before, cut.id, snapped(at + by, event) - at));
    } else if (part === 'end') {
      const length = Math.max(1, snapped(start + frames + by, event) - start);
      trim('Change clip length', [{ id, values: { length } }]);
    } else if (part === 'start') trim('Trim start of clip', [trimStart(clip, snapped(start + by, event) - start)]);
    else arrange(event);
  }
  /** Brings the clips that a trim is about to what it makes of them as they were. */
  function trim(label: string, changes: readonly ClipChange[]): void {
    const { clips: before, shifts, gesture } = drag!;
    const ids = new Set([...changes.map((c) => c.id), ...shifts.keys()]);
    const made = [...ids].map((id): ClipChange => {
      const { start, length: frames, pace } = before.clips.find((c) => c.id === id)!;
      const change = changes.find((c) => c.id === id);
      const shift = (change?.shift ?? 0) - (shifts.get(id) ?? 0);
      shifts.set(id, change?.shift ?? 0);
      return { id, shift, values: { start, length: frames, ...(pace && { pace }), ...change?.values } };
    });
    run(changeClips(label, made), gesture);
  }
  /** Carries the clip to the place of the one under the pointer. */
  function arrange(event: PointerEvent): void {
    const { id, gesture } = drag!;
    const at = pointed(event);
    const under = clips.value.findIndex((c) => at >= c.from && at < c.from + c.clip.length);
    const own = clips.value.findIndex((c) => c.clip.id === id);
    if (under < 0 || under === own) return;
    // Only past the middle of the neighbour, so that unequal clips do not swap back and forth.
    const { from, clip } = clips.value[under];
    if (under > own ? at < from + clip.length / 2 : at > from + clip.length / 2) return;
    const begin = firstFrame(id);
    run(carryClips(chosenClips.value.includes(id) ? chosenClips.value : [id], under), gesture);
    // What is grouped with clips, or chosen with them, goes along.
    const by = firstFrame(id) - begin;
    if (by !== 0 && chosenItems.value.length > 1) run(shiftItems(chosenItems.value, by), gesture);
  }
  /** First frame of a clip of the cut as it is now. */
  const firstFrame = (id: string): number => clips.value.find((c) => c.clip.id === id)?.from ?? 0;
  function up(): void {
    if (drag) rows.drop(drag.id, drag.gesture);
    drag = null;
    held.value = null;
  }
  /** What the tool does to a clip, by a frame. */
  function nudge(id: string, step: number, frames: number): void {
    const now = toRaw(promo.value!);
    const clip = now.clips.find((c) => c.id === id)!;
    const changes: Record<TrimTool, () => readonly ClipChange[]> = {
      arrange: () => [{ id, values: { length: Math.max(1, frames + step) } }],
      roll: () => rollCut(now, id, step),
      slip: () => [slipClip(clip, step, sourceOf(clip.take)?.length ?? 1)],
      slide: () => slideClip(now, id, step),
    };
    run(changeClips(`Trim clip, ${tool.value}`, changes[tool.value]()), `nudge-${id}`);
  }
  function onKey(event: KeyboardEvent, kind: DragKind, id: string, start: number, frames: number): void {
    const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (event.key === 'Delete') {
      if (!chosenItems.value.includes(id)) chosen.value = { kind, id };
      if (kind === 'layer') rack.chosen = id;
      removeChosen();
    } else if (step && kind === 'clip') nudge(id, step, frames);
    else if (step && kind === 'sound') editSound(id, 'Move sound', { at: Math.max(0, start + step) }, `nudge-${id}`);
    else if (step) editSpan(kind, id, 'Move', { start: Math.max(0, start + step) }, `nudge-${id}`);
    else if (event.key === 'Enter' || event.key === ' ') chosen.value = { kind, id };
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  return { down, move, up, onKey };
}
