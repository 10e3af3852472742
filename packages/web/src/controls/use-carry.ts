/** Something that is carried about in a picture. */
export interface Carried {
  /** Brings it so far from where it was grasped: shares of the picture's height, to the right and down. */
  to: (across: number, down: number, gesture: string) => void;
}

/** Pixels before a press becomes a drag: a click moves nothing. */
const SLACK = 4;

export interface Carry {
  down: (event: PointerEvent) => void;
  move: (event: PointerEvent) => void;
  up: () => void;
}

/**
 * Carries what is chosen about in a picture, each drag one edit.
 * @param height of the picture as it is shown, pixels. @param grasp what is to be carried, where it is now; null: nothing is.
 */
export function useCarry(height: () => number, grasp: () => Carried | null): Carry {
  let drag: { carried: Carried; x: number; y: number; gesture: string; begun: boolean } | null = null;
  return {
    down: (event) => {
      const carried = event.button === 0 ? grasp() : null;
      if (!carried) return;
      drag = { carried, x: event.clientX, y: event.clientY, gesture: `carry-${Date.now()}`, begun: false };
      (event.currentTarget as Element).setPointerCapture(event.pointerId);
    },
    move: (event) => {
      if (!drag) return;
      const [x, y] = [event.clientX - drag.x, event.clientY - drag.y];
      drag.begun ||= Math.abs(x) + Math.abs(y) >= SLACK;
      if (drag.begun) drag.carried.to(x / height(), y / height(), drag.gesture);
    },
    up: () => {
      drag = null;
    },
  };
}
