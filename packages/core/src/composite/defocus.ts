import type { LayerOf } from '../document/index.ts';
import { blurPlate } from './blur.ts';
import { edgeSides } from './edge-sides.ts';
import { shown, type SeenTake } from './layer-plate.ts';
import type { Plate, Plates } from './plate.ts';

/** Blurs that are mixed: so many shares of the widest. */
const STEPS = [0, 0.25, 0.5, 1] as const;

/**
 * Defocuses what is there by the depth of the take: what is `focus` metres away stays sharp, what is far away is blurred to discs of the
 * radius `size` (a thin lens: radius times |1 - focus / depth|, what is near the more), as Gaussians of the same variance. Each pixel is
 * mixed from the two nearest of a few blurs, so that the work does not depend on how wide they are; a light in the blur keeps its energy.
 */
export function defocus(
  plates: Plates,
  plate: Plate,
  { size, focus, amount }: LayerOf<'filter'>,
  seen: SeenTake | null,
): void {
  if (!seen?.frame.depths || size <= 0) return;
  const { frame } = seen;
  const { width, height } = frame;
  const { depth } = frame.depths!;
  const sides = edgeSides(frame);
  const wide = new Float32Array(width * height);
  const circle = (away: number): number => Math.min(1, away > 0 ? Math.abs(1 - focus / away) * amount : amount);
  for (let i = 0; i < wide.length; i++) wide[i] = circle(sides.isEdge(i) ? sides.front(i) : depth[i]);
  plates.within(() => {
    const widths = shown(plates, frame, wide, seen.lies, plate);
    // A radius r as a Gaussian: r / 2.
    const blurs = STEPS.map((step) => {
      const copy = plates.copy(plate);
      if (step > 0) blurPlate(plates, copy, (size * step * plate.height) / 2);
      return copy;
    });
    const [out, how] = [plate.data, widths.data];
    const from = blurs.map((blur) => blur.data);
    for (let o = 0; o < out.length; o += 4) {
      const w = Math.min(1, Math.max(0, how[o + 3]));
      let k = 1;
      while (k < STEPS.length - 1 && STEPS[k] < w) k++;
      const t = (w - STEPS[k - 1]) / (STEPS[k] - STEPS[k - 1]);
      for (let c = 0; c < 4; c++) out[o + c] = from[k - 1][o + c] * (1 - t) + from[k][o + c] * t;
    }
  });
}
