import {
  CompressedCubeTexture,
  CubeReflectionMapping,
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearSRGBColorSpace,
  RGBAFormat,
  type CompressedPixelFormat,
} from 'three';
import type { RoomLevel, RoomLight } from '../workers/model-worker.ts';

/** Half a float's 1. */
const ONE = 0x3c00;

/** Light of 1 from everywhere, with as many levels as other rooms have: finishes need no other program for them. */
export const PLAIN_ROOM: RoomLight = {
  levels: [128, 64, 32, 16, 8].map((size) => ({ size, data: new Uint16Array(6 * size * size * 4).fill(ONE) })),
  matt: { size: 8, data: new Float32Array(6 * 8 * 8 * 4).fill(1) },
};

/**
 * The texture that finishes mirror. A compressed cube is the kind that brings all of its levels; of plain texels three.js takes it too.
 * Opposite sides along x change places: three.js looks cubes up mirrored.
 */
export function roomTexture(levels: readonly RoomLevel[]): CompressedCubeTexture {
  const faces = [1, 0, 2, 3, 4, 5].map((face) => ({
    width: levels[0].size,
    height: levels[0].size,
    mipmaps: levels.map(({ size, data }) => ({ width: size, height: size, data: turned(data, size, face) })),
  }));
  const texture = new CompressedCubeTexture(
    faces as never,
    RGBAFormat as unknown as CompressedPixelFormat,
    HalfFloatType,
  );
  texture.mapping = CubeReflectionMapping;
  texture.colorSpace = LinearSRGBColorSpace;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.magFilter = LinearFilter;
  return Object.assign(texture, { isPMREMTexture: true, needsUpdate: true });
}

/** A face with left and right exchanged. */
function turned(data: Uint16Array, size: number, face: number): Uint16Array {
  const out = new Uint16Array(size * size * 4);
  for (let row = 0; row < size; row++)
    for (let column = 0; column < size; column++) {
      const from = ((face * size + row) * size + size - 1 - column) * 4;
      out.set(data.subarray(from, from + 4), (row * size + column) * 4);
    }
  return out;
}
