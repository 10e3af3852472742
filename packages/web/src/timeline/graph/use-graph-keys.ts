import { changeKey, deleteKeys, moveKeys } from '@tender-orbit/core/document';
import { fitNumber } from '@tender-orbit/core/properties';
import { ref, type Ref } from 'vue';
import type { GraphLine } from './graph-lines.ts';
import type { GraphView } from './graph-view.ts';

/** Keys that are held together, with the values that they had. */
interface Lifted {
  /** Where they were taken, and which way they go from there. */
  px: number;
  py: number;
  along: 'time' | 'value' | null;
  from: { value: number; frame: number };
  gesture: string;
  keys: Array<{ line: GraphLine; frame: number; value: number }>;
}

/** Pixels that a key is taken within, and that it goes before it is known which way. */
const REACH = 9;
const UNDECIDED = 4;
/** A press of an arrow changes a value by so much of the range. */
const STEP = 0.02;

/** Choosing the keys of a graph, and moving them by pointer or by keyboard. */
export function useGraphKeys({
  host,
  lines,
  held,
  range,
  x,
  y,
  valueAt,
  frameAt,
  place,
  first,
  isSpeed,
  isMade,
}: GraphView & { first: () => number; isSpeed: () => boolean; isMade: (line: string) => boolean }): {
  press: (event: PointerEvent) => void;
  drag: (event: PointerEvent) => void;
  release: () => void;
  byKey: (event: KeyboardEvent) => void;
  /** Frames that chosen keys are carried by at the moment. */
  moved: Ref<number>;
} {
  const { selection } = host;
  const moved = ref(0);
  let lifted: Lifted | null = null;

  /** The key nearest to a place, within reach. */
  function keyNear(px: number, py: number): { line: GraphLine; frame: number } | null {
    let best: { line: GraphLine; frame: number; off: number } | null = null;
    for (const line of lines.value)
      for (const key of line.track.keys) {
        const value = isSpeed() ? line.keyed(key.frame) : key.value * line.property.display.scale;
        const off = Math.hypot(x(key.frame) - px, y(value) - py);
        if (off <= REACH && off < (best?.off ?? Infinity)) best = { line, frame: key.frame, off };
      }
    return best;
  }
  const chosen = (): Lifted['keys'] =>
    lines.value.flatMap((line) =>
      line.track.keys
        .filter((key) => selection.has(line.track, key.frame))
        .map(({ frame, value }) => ({ line, frame, value })),
    );
  function change(keys: Lifted['keys'], by: number, gesture: string): void {
    for (const { line, frame, value } of keys) {
      const { thing, path } = line.track;
      const to = fitNumber(line.property, value + by / line.property.display.scale);
      host.run(changeKey({ thing, path, frame }, Number(to.toPrecision(8))), gesture);
    }
  }
  /** Moves the chosen keys in time; the first frame that is seen holds them back. */
  function shift(by: number): void {
    const keys = selection.list();
    const whole = Math.max(by, first() - Math.min(...keys.map((k) => k.frame)));
    if (keys.length === 0 || whole === 0) return;
    host.run(moveKeys(keys, whole), '');
    selection.replace(keys.map((k) => ({ ...k, frame: k.frame + whole })));
  }

  function press(event: PointerEvent): void {
    if (event.button !== 0) return;
    const { px, py } = place(event);
    const hit = keyNear(px, py);
    if (!hit) {
      if (!event.shiftKey) selection.clear();
      return;
    }
    if (event.shiftKey) selection.toggle(hit.line.track, hit.frame);
    else if (!selection.has(hit.line.track, hit.frame)) selection.only(hit.line.track, hit.frame);
    if (isSpeed() || isMade(hit.line.id)) return;
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    held.value = range.value;
    lifted = {
      ...{ px, py, along: host.movesInTime ? null : 'value', gesture: `graph-${Date.now()}`, keys: chosen() },
      from: { value: valueAt(py), frame: frameAt(px) },
    };
  }
  function drag(event: PointerEvent): void {
    if (!lifted || event.buttons !== 1) return;
    const { px, py } = place(event);
    const [dx, dy] = [Math.abs(px - lifted.px), Math.abs(py - lifted.py)];
    if (!lifted.along && Math.max(dx, dy) > UNDECIDED) lifted.along = dx > dy ? 'time' : 'value';
    if (lifted.along === 'time') moved.value = Math.round(frameAt(px) - lifted.from.frame);
    else if (lifted.along === 'value') change(lifted.keys, valueAt(py) - lifted.from.value, lifted.gesture);
  }
  function release(): void {
    // Keys that are passed over stay: the document changes once.
    if (lifted && moved.value !== 0) shift(moved.value);
    moved.value = 0;
    lifted = null;
    held.value = null;
  }

  /** Left and right choose the key before or after, up and down change it; with Alt they move it in time. */
  function byKey(event: KeyboardEvent): void {
    const way = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1 }[event.key];
    const across = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
    if (event.key === 'Delete' || event.key === 'Backspace') {
      if (selection.count.value > 0) host.run(deleteKeys(selection.list()), '');
      selection.clear();
    } else if (!way) return;
    else if (!across) change(chosen(), way * STEP * (range.value.high - range.value.low), '');
    else if (event.altKey) shift(way);
    else choose(way);
    event.preventDefault();
    event.stopPropagation();
  }
  function choose(way: number): void {
    const all = lines.value.flatMap(({ track }) => track.keys.map(({ frame }) => ({ track, frame })));
    if (all.length === 0) return;
    const at = all.findIndex(({ track, frame }) => selection.has(track, frame));
    const { track, frame } = all[at < 0 ? 0 : (at + way + all.length) % all.length];
    selection.only(track, frame);
  }
  return { press, drag, release, byKey, moved };
}
