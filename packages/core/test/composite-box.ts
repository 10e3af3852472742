import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { newLayer, type Layer, type LayerKind, type LayerOf } from '@tender-orbit/core/document';
import {
  compose,
  Plates,
  type ComposeInput,
  type LightFrame,
  type PictureKernel,
  type Plate,
} from '@tender-orbit/core/composite';
import type { Picture } from '@tender-orbit/core/picture';

const WASM = fileURLToPath(import.meta.resolve('@tender-orbit/kernel/picture.wasm'));
const MODULE = new WebAssembly.Module(readFileSync(WASM));
export const newPlates = (): Plates => new Plates(instantiateKernel(MODULE) as unknown as PictureKernel);
export const plates = newPlates();
/** A plate of given numbers. */
export function plateOf(width: number, height: number, numbers: ArrayLike<number>): Plate {
  const plate = plates.make(width, height);
  plate.data.set(numbers);
  return plate;
}

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
  return compose(plates, layers, {
    ...{ width: 64, height: 36, frame: 0, seconds: 0, view: 'plain', take: () => lightOf(64, 36, [0.2, 0.2, 0.2]) },
    ...values,
  });
}
/** The four numbers of a pixel. */
export const at = ({ width, data }: Picture | Plate, x: number, y: number): number[] => [
  ...data.slice((y * width + x) * 4, (y * width + x) * 4 + 4),
];
