import { computed, ref, type ComputedRef, type Ref } from 'vue';
import { useKeySelection, type ChosenKey } from './use-key-selection.ts';

/** Choosing keys by a box that is drawn over the lanes; Shift keeps what is chosen already. */
export function useBoxSelect(lanes: Ref<HTMLElement | undefined>): {
  style: ComputedRef<Record<string, string> | null>;
  begin: (event: PointerEvent) => void;
  stretch: (event: PointerEvent) => void;
  finish: () => void;
} {
  const selection = useKeySelection();
  const box = ref<{ x: number; y: number; toX: number; toY: number; kept: ChosenKey[] } | null>(null);

  function place(event: PointerEvent): { x: number; y: number } {
    const area = lanes.value!.getBoundingClientRect();
    return { x: event.clientX - area.left, y: event.clientY - area.top };
  }
  function begin(event: PointerEvent): void {
    if (event.button !== 0) return;
    const { x, y } = place(event);
    lanes.value!.setPointerCapture(event.pointerId);
    box.value = { x, y, toX: x, toY: y, kept: event.shiftKey ? selection.list() : [] };
  }
  function stretch(event: PointerEvent): void {
    if (!box.value || event.buttons !== 1) return;
    const { x, y } = place(event);
    box.value = { ...box.value, toX: x, toY: y };
    selection.replace([...box.value.kept, ...within()]);
  }
  /** A press without a way is a click beside all keys: nothing is chosen then. */
  function finish(): void {
    if (!box.value) return;
    const { x, y, toX, toY, kept } = box.value;
    if (Math.abs(toX - x) + Math.abs(toY - y) < 4) selection.replace(kept);
    box.value = null;
  }
  /** Keys whose beads have their middle in the box. */
  function within(): ChosenKey[] {
    const { x, y, toX, toY } = box.value!;
    const area = lanes.value!.getBoundingClientRect();
    const [left, right] = [Math.min(x, toX) + area.left, Math.max(x, toX) + area.left];
    const [top, bottom] = [Math.min(y, toY) + area.top, Math.max(y, toY) + area.top];
    return [...lanes.value!.querySelectorAll<HTMLElement>('[data-key]')].flatMap((bead) => {
      const at = bead.getBoundingClientRect();
      const [mx, my] = [at.left + at.width / 2, at.top + at.height / 2];
      if (mx < left || mx > right || my < top || my > bottom) return [];
      const [thing, path, frame] = bead.dataset.key!.split(' ');
      return [{ thing, path, frame: Number(frame) }];
    });
  }
  const style = computed(() => {
    if (!box.value) return null;
    const { x, y, toX, toY } = box.value;
    return {
      left: `${Math.min(x, toX)}px`,
      top: `${Math.min(y, toY)}px`,
      width: `${Math.abs(toX - x)}px`,
      height: `${Math.abs(toY - y)}px`,
    };
  });
  return { style, begin, stretch, finish };
}
