import { frameBounds } from '@tender-orbit/core/camera';
import { emptyBounds, type Bounds } from '@tender-orbit/core/geometry';
import { toPolar } from '@tender-orbit/core/staging';
import { useCampaign, useNotices, useStage } from '../stores/index.ts';
import { boxesIn } from './boxes.ts';
import { useTableau } from './use-tableau.ts';

/** Left free round the products, as a share of the picture. */
const MARGIN = 0.12;

/** Brings all products into the picture. */
export function useFraming(): { frameProducts: (camera?: string) => void } {
  const campaign = useCampaign();
  const notices = useNotices();
  const stage = useStage();
  const tableau = useTableau();

  function productBox(): Bounds | null {
    if (!tableau.value) return null;
    const boxes = boxesIn(tableau.value);
    const box = emptyBounds();
    for (const { id } of tableau.value.instances) {
      const own = boxes.get(id);
      if (!own) continue;
      for (let a = 0; a < 3; a++) {
        box.min[a] = Math.min(box.min[a], own.min[a]);
        box.max[a] = Math.max(box.max[a], own.max[a]);
      }
    }
    return Number.isFinite(box.min[0]) ? box : null;
  }

  /**
   * A camera steps back or forward on its own line of sight until all products are in the picture.
   * @param id of the camera; absent: the shot's.
   */
  function frameProducts(id = campaign.camera?.id ?? ''): void {
    const box = productBox();
    const camera = stage.posed?.cameras.find((c) => c.id === id);
    if (!camera) return;
    if (!box) {
      notices.refuse('There is no product on the set to frame: put one there first.');
      return;
    }
    const { position, aim, focalLength, sensorWidth } = camera;
    const { azimuth, elevation } = toPolar(position.map((v, a) => v - aim[a]));
    const framed = frameBounds(box, { focalLength, sensorWidth, aspect: campaign.aspect }, azimuth, elevation, MARGIN);
    const numbers = (['position', 'aim'] as const).flatMap((point) =>
      framed[point].map((value, axis) => [`${point}.${axis}`, Number(value.toFixed(4))] as const),
    );
    stage.setValues(id, Object.fromEntries(numbers), 'Frame products');
  }
  return { frameProducts };
}
