import type { PlanMark } from '@tender-orbit/core/staging';
import type { Ref } from 'vue';
import type { Plan } from './use-plan.ts';

export interface MarkDrag {
  start: (event: PointerEvent, mark: PlanMark) => void;
  move: (event: PointerEvent) => void;
  end: () => void;
}

/**
 * Drags the marks of a drawing.
 * @param drag moves a mark to a place in the drawing's own units. @param grab takes it in hand, see `Plan.grab`.
 */
export function useMarkDrag(
  svg: Ref<SVGSVGElement | undefined>,
  { marks, grab, release }: Pick<Plan, 'marks' | 'grab' | 'release'>,
  drag: (mark: PlanMark, point: DOMPoint, gesture: string) => void,
): MarkDrag {
  let held: { id: string; gesture: string } | null = null;
  return {
    start(event, mark) {
      if (event.button !== 0 || !grab(event, mark)) return;
      held = { id: mark.id, gesture: `plan-${Date.now()}` };
      svg.value!.setPointerCapture(event.pointerId);
    },
    move(event) {
      const mark = held && marks.value.find(({ id }) => id === held!.id);
      if (!held || !mark) return;
      const toDrawing = svg.value!.getScreenCTM()!.inverse();
      drag(mark, new DOMPoint(event.clientX, event.clientY).matrixTransform(toDrawing), held.gesture);
    },
    end() {
      held = null;
      release();
    },
  };
}
