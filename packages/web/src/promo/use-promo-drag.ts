import { carryClip } from '@tender-orbit/core/document';
import { computed, type Ref } from 'vue';
import { placedClips } from '@tender-orbit/core/promo';
import { KIT_SECONDS } from '@tender-orbit/core/audio';
import { framesToSeconds, snapToBeat } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { frameUnder } from '../timeline/lane.ts';
import { usePromo } from './use-promo.ts';

type DragKind = 'clip' | 'title' | 'sound' | 'overlay';

export interface PromoDragSurface {
  lanes: Ref<HTMLElement | undefined>;
  /** Frames that the lanes show now. */
  span: Readonly<Ref<number>>;
  /** Set to a length while something is dragged, so that the time line keeps its scale. */
  held: Ref<number | null>;
  snap: Readonly<Ref<boolean>>;
}

export interface PromoDrag {
  /** @param start its first frame, or that of a sound's accent. @param frames how long it is; of a sound seconds. */
  down: (event: PointerEvent, kind: DragKind, id: string, start: number, frames: number) => void;
  move: (event: PointerEvent) => void;
  up: () => void;
  onKey: (event: KeyboardEvent, kind: DragKind, id: string, start: number, frames: number) => void;
}

/** Clips, titles, overlays and sounds carried, stretched and nudged on the promo's time line. */
export function usePromoDrag({ lanes, span, held, snap }: PromoDragSurface): PromoDrag {
  const campaign = useCampaign();
  const {
    promo,
    length,
    grid,
    chosen,
    frame,
    run,
    editClip,
    editTitle,
    editOverlay,
    editSound,
    editSource,
    removeChosen,
  } = usePromo();
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
  } | null = null;

  /** The nearest beat, cut or the playhead, where one is near; a clip's own cuts move with it and do not count. */
  function snapped(at: number, event: PointerEvent): number {
    const whole = Math.round(at);
    if (!snap.value || event.altKey) return whole;
    const reach = Math.max(2, span.value / 80);
    const cuts = drag?.kind === 'clip' ? [] : clips.value.flatMap(({ from, clip }) => [from, from + clip.length]);
    const beat = grid.value ? [snapToBeat(grid.value, campaign.rate, whole, reach)] : [];
    const near = [...beat.filter((to) => to !== whole), ...cuts, frame.value].filter(
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
    chosen.value = { kind, id };
    held.value = length.value;
    drag = { kind, id, part, grab: pointed(event), start, length: frames, gesture: `promo-${Date.now()}` };
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }
  function move(event: PointerEvent): void {
    if (!drag || event.buttons !== 1) return;
    const by = pointed(event) - drag.grab;
    if (Math.abs(by) < 0.4) return;
    if (drag.kind === 'title' || drag.kind === 'overlay') moveSpan(by, event);
    else if (drag.kind === 'sound') moveSound(by, event);
    else moveClip(by, event);
  }
  /** Titles and overlays have a beginning and a length of their own. */
  function editSpan(label: string, values: { start?: number; length?: number }): void {
    const { kind, id, gesture } = drag!;
    if (kind === 'title') editTitle(id, `${label} title`, values, gesture);
    else editOverlay(id, `${label} overlay`, values, gesture);
  }
  function moveSpan(by: number, event: PointerEvent): void {
    const { part, start, length: frames } = drag!;
    if (part === 'body') editSpan('Move', { start: Math.max(0, snapped(start + by, event)) });
    else if (part === 'end')
      editSpan('Change length of', { length: Math.max(1, snapped(start + frames + by, event) - start) });
    else {
      const from = Math.min(start + frames - 1, Math.max(0, snapped(start + by, event)));
      editSpan('Change start of', { start: from, length: start + frames - from });
    }
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
  /** The right edge changes the length; the body is carried to another place in the order. */
  function moveClip(by: number, event: PointerEvent): void {
    const { id, part, start, length: frames, gesture } = drag!;
    if (part === 'end') {
      editClip(id, 'Change clip length', { length: Math.max(1, snapped(start + frames + by, event) - start) }, gesture);
      return;
    }
    const at = pointed(event);
    const under = clips.value.findIndex((c) => at >= c.from && at < c.from + c.clip.length);
    const own = clips.value.findIndex((c) => c.clip.id === id);
    if (under < 0 || under === own) return;
    // Only past the middle of the neighbour, so that unequal clips do not swap back and forth.
    const { from, clip } = clips.value[under];
    if (under > own ? at < from + clip.length / 2 : at > from + clip.length / 2) return;
    run(carryClip(id, under), gesture);
  }
  function up(): void {
    drag = null;
    held.value = null;
  }
  function onKey(event: KeyboardEvent, kind: DragKind, id: string, start: number, frames: number): void {
    const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (event.key === 'Delete') {
      chosen.value = { kind, id };
      removeChosen();
    } else if (step && kind === 'title')
      editTitle(id, 'Move title', { start: Math.max(0, start + step) }, `nudge-${id}`);
    else if (step && kind === 'overlay')
      editOverlay(id, 'Move overlay', { start: Math.max(0, start + step) }, `nudge-${id}`);
    else if (step && kind === 'sound') editSound(id, 'Move sound', { at: Math.max(0, start + step) }, `nudge-${id}`);
    else if (step) editClip(id, 'Change clip length', { length: Math.max(1, frames + step) }, `nudge-${id}`);
    else if (event.key === 'Enter' || event.key === ' ') chosen.value = { kind, id };
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  return { down, move, up, onKey };
}
