import { isPart, layerProperties } from '@tender-orbit/core/document';
import type { Carried } from '../controls/use-carry.ts';
import type { useRack } from '../stores/index.ts';

/** Finer than a pixel of any picture. */
const fine = (value: number): number => Number(value.toFixed(4));

/** The chosen layer as it is carried about in the picture; null where there is none, or it is locked or stands in the set. */
export function carriedLayer(rack: ReturnType<typeof useRack>): Carried | null {
  const { layer } = rack;
  if (!layer || layer.locked || layer.inSet || isPart(layer) || !('x' in layerProperties(layer.kind))) return null;
  const [x, y] = [Number(rack.value(layer, 'x')), Number(rack.value(layer, 'y'))];
  return {
    to: (across, down, gesture) => {
      rack.setValue(layer, 'x', fine(x + across), gesture);
      rack.setValue(layer, 'y', fine(y - down), gesture);
    },
  };
}
