import { changeLinkedEase, easeKeys, type EaseShape } from '@tender-orbit/core/document';
import type { GraphLine } from './graph-lines.ts';
import type { GraphView } from './graph-view.ts';
import { joined, opposite, withHandle, type Handle } from './handles.ts';

const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-0.02, 0],
  ArrowRight: [0.02, 0],
  ArrowDown: [0, -0.02],
  ArrowUp: [0, 0.02],
};

/** Bending the spans of a graph by the handles of its chosen key, by pointer or by keyboard. */
export function useGraphHandles({ host, handles, held, range, valueAt, frameAt, place }: GraphView): {
  hold: (event: PointerEvent, line: GraphLine, handle: Handle) => void;
  bend: (event: PointerEvent) => void;
  letGo: () => void;
  nudge: (event: KeyboardEvent, line: GraphLine, handle: Handle) => void;
} {
  /** A handle in hand, and the other one of its key when they lie on one line. */
  let bent: { handle: Handle; line: GraphLine; other: Handle | null; gesture: string } | null = null;

  function hold(event: PointerEvent, line: GraphLine, handle: Handle): void {
    const dot = event.currentTarget as HTMLElement;
    // Keys go to what was pressed, not to the field that was in hand before.
    dot.focus();
    dot.setPointerCapture(event.pointerId);
    held.value = range.value;
    bent = { line, handle, other: partner(line, handle), gesture: `handle-${Date.now()}` };
  }
  function partner(line: GraphLine, handle: Handle): Handle | null {
    const both = handles.value.filter((h) => h.line.id === line.id).map((h) => h.handle);
    return joined(both) ? (both.find((h) => h.end !== handle.end) ?? null) : null;
  }
  function bend(event: PointerEvent): void {
    if (!bent || event.buttons !== 1) return;
    const { px, py } = place(event);
    const to = { frame: frameAt(px), value: valueAt(py) / bent.line.property.display.scale };
    put(bent.line, bent.handle, event.altKey ? null : bent.other, to, bent.gesture);
  }
  function put(line: GraphLine, handle: Handle, other: Handle | null, to: Handle['at'], gesture: string): void {
    const shape = (h: Handle, at: Handle['at']): void => {
      const ease = withHandle(line.track.keys, h, at, host.eases());
      if (ease) setEase(line, h.holder, ease, gesture);
    };
    shape(handle, to);
    if (other) shape(other, opposite(handle, other, to));
  }
  /** A linked ease changes for all that share it. */
  function setEase(line: GraphLine, holder: number, ease: EaseShape, gesture: string): void {
    const { frame, ease: now } = line.track.keys[holder];
    const { thing, path } = line.track;
    const linked = typeof now === 'object' && now.kind === 'linked';
    host.run(linked ? changeLinkedEase(now.id, { ease }) : easeKeys([{ thing, path, frame }], ease), gesture);
  }
  function nudge(event: KeyboardEvent, line: GraphLine, handle: Handle): void {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const [a, b] = [line.track.keys[handle.holder], line.track.keys[handle.holder + 1]];
    const to = {
      frame: handle.at.frame + step[0] * (b.frame - a.frame),
      value: handle.at.value + step[1] * (b.value - a.value),
    };
    put(line, handle, event.altKey ? null : partner(line, handle), to, '');
  }
  function letGo(): void {
    bent = null;
    held.value = null;
  }
  return { hold, bend, letGo, nudge };
}
