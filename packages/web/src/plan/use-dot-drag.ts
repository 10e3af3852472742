/** Metres that an arrow key moves a dot by: across and forward. */
const STEP: Record<string, readonly [number, number]> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, -0.01],
  ArrowDown: [0, 0.01],
};

/**
 * Dragging dots of a drawing from above, and moving them by arrow keys. @param scale drawing units a metre. @param put gets
 * what is moved, across and forward, metres.
 */
export function useDotDrag<T>(
  scale: () => number,
  put: (what: T, x: number, z: number, gesture: string) => void,
): {
  take: (event: PointerEvent) => void;
  move: (event: PointerEvent, what: T) => void;
  drop: () => void;
  nudge: (event: KeyboardEvent, what: T, x: number, z: number) => void;
} {
  let gesture = '';
  return {
    take(event) {
      if (event.button !== 0) return;
      event.stopPropagation();
      gesture = `dot-${Date.now()}`;
      (event.currentTarget as Element).setPointerCapture(event.pointerId);
    },
    move(event, what) {
      if (!gesture || event.buttons !== 1) return;
      const dot = event.currentTarget as SVGGraphicsElement;
      const toDrawing = dot.ownerSVGElement!.getScreenCTM()!.inverse();
      const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(toDrawing);
      put(what, x / scale(), y / scale(), gesture);
    },
    drop: () => void (gesture = ''),
    nudge(event, what, x, z) {
      const by = STEP[event.key];
      if (!by) return;
      event.preventDefault();
      event.stopPropagation();
      put(what, x + by[0], z + by[1], '');
    },
  };
}
