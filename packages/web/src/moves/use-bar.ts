import { ref } from 'vue';
import type { Lane } from './use-lane.ts';

/** What of a bar is held: all of it, or an end. */
type Part = 'whole' | 'start' | 'end';

interface Bar {
  /** Its first frame and the one after its last. */
  span: () => { start: number; end: number };
  /** Brings it there; one gesture is undone in one go. */
  put: (start: number, end: number, gesture: string) => void;
  /** Frames that it is drawn longer than that. */
  beyond?: () => number;
  choose: () => void;
  remove: () => void;
}

/**
 * How a bar on a lane of the timeline is handled: dragged as a whole or by an end; the arrow keys move it, with Shift its end, and
 * Delete takes it away.
 */
export function useBar(lane: () => Lane, { span, put, beyond = () => 0, choose, remove }: Bar) {
  const held = ref<{ part: Part; grab: number; start: number; end: number; gesture: string } | null>(null);

  function take(event: PointerEvent, part: Part): void {
    if (event.button !== 0) return;
    choose();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    held.value = { part, grab: lane().frameAt(event), ...span(), gesture: `bar-${Date.now()}` };
  }
  function drag(event: PointerEvent): void {
    const hand = held.value;
    if (!hand || event.buttons !== 1) return;
    const { part, start, end, grab, gesture } = hand;
    const to = lane().frameAt(event);
    if (part === 'end') put(start, Math.max(start + 1, to - beyond()), gesture);
    else if (part === 'start') put(Math.min(to, end - 1), end, gesture);
    else put(start + to - grab, end + to - grab, gesture);
  }
  function letGo(): void {
    held.value = null;
  }
  function onKey(event: KeyboardEvent): void {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const { start, end } = span();
    if (by && event.shiftKey) put(start, Math.max(start + 1, end + by), '');
    else if (by) put(start + by, end + by, '');
    else if (event.key === 'Enter' || event.key === ' ') choose();
    else if (event.key === 'Delete') remove();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  return { take, drag, letGo, onKey };
}
