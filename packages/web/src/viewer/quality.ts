/** Resolution steps the viewer draws at, as shares of the screen's pixels. */
const STEPS = [1, 0.75, 0.5, 0.35];
/** Narrower than this, pixels, a picture tells too little of a move. */
const LEAST_WIDTH = 480;
/** While something moves a frame should not take longer than this, ms. */
const BUDGET = 70;

/** Steps resolution down by measured frame time while things move, and back to full when they rest. */
export class AdaptiveQuality {
  private step = 0;

  /** Share of full resolution to draw the next frame at, of a picture so many pixels wide. */
  scale(moving: boolean, width: number): number {
    return moving ? Math.max(STEPS[this.step], Math.min(1, LEAST_WIDTH / width)) : STEPS[0];
  }

  /** Reports how long a frame took that was drawn while things move. */
  measured(milliseconds: number): void {
    if (milliseconds > BUDGET && this.step < STEPS.length - 1) this.step++;
    else if (milliseconds < BUDGET / 4 && this.step > 0) this.step--;
  }
}
