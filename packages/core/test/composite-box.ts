import { newLayer, type Layer, type LayerKind, type LayerOf } from '@tender-orbit/core/document';
import { compose, type ComposeInput, type LightFrame, type Plate } from '@tender-orbit/core/composite';
import type { Picture } from '@tender-orbit/core/picture';

/** A layer that is called after its kind. */
export const layer = <K extends LayerKind>(kind: K, values: Partial<LayerOf<K>> = {}): LayerOf<K> =>
  newLayer(kind, kind, kind, values as Partial<Layer>) as LayerOf<K>;
/** A frame of one colour, its products in the left half. */
export function lightOf(width: number, height: number, rgb: readonly number[], matted = true): LightFrame {
  const light = Float32Array.from({ length: width * height * 3 }, (_, i) => rgb[i % 3]);
  const matte = Float32Array.from({ length: width * height }, (_, i) => (matted && i % width < width / 2 ? 1 : 0));
  return { width, height, light, matte };
}
export function composed(layers: Layer[], values: Partial<ComposeInput> = {}): Picture {
  return compose(layers, {
    ...{ width: 64, height: 36, frame: 0, seconds: 0, view: 'plain', take: () => lightOf(64, 36, [0.2, 0.2, 0.2]) },
    ...values,
  });
}
/** The four numbers of a pixel. */
export const at = ({ width, data }: Picture | Plate, x: number, y: number): number[] => [
  ...data.slice((y * width + x) * 4, (y * width + x) * 4 + 4),
];
