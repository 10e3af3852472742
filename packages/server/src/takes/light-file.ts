import { rename, writeFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import {
  NOTHING,
  writeLight,
  writeLightParts,
  type Covered,
  type FrameDepths,
  type LightFrame,
  type LightParts,
} from '@tender-orbit/core/composite';
import type { FrameSpace } from '@tender-orbit/core/scene';
import type { Passes } from '@tender-orbit/core/trace';

/** The light of a frame as it lies on disk: by its logarithm, compressed. */
export const packLight = (frame: LightFrame): Uint8Array => deflateSync(writeLight(frame), { level: 4 });

export const packParts = (parts: LightParts): Uint8Array => deflateSync(writeLightParts(parts), { level: 4 });

/** Writes a frame's light or lights, whole or not at all. */
export async function writePacked(path: string, bytes: Uint8Array): Promise<void> {
  await writeFile(`${path}.part`, bytes);
  await rename(`${path}.part`, path);
}

/**
 * What layers that stand in the set, and masks, need to know of a frame. @param things ids, and names of finishes, by the numbers that
 * passes have. @param tint how glass of products colours what is seen through it.
 */
export function depthsOf(
  { depth, detail, height }: Passes,
  things: readonly string[],
  finishes: readonly string[],
  space: FrameSpace,
  tint: Float32Array | null,
): FrameDepths {
  const { thing, thingCover, finish, finishCover } = detail!;
  const seen = { names: finishes.slice(0, NOTHING), ...coveredBy(finish, finishCover, depth.length) };
  return {
    space,
    depth,
    things: things.slice(0, NOTHING),
    ...coveredBy(thing, thingCover, depth.length),
    finishes: seen,
    ...(tint ? { tint } : {}),
    motion: detail!.motion.map((pixels) => pixels / height),
  };
}

/** The two of the four that cover most of a pixel, the first ones most of all. */
function coveredBy(numbers: Float32Array, shares: Float32Array, count: number): Pick<Covered, 'ids' | 'covers'> {
  const [ids, covers] = [new Uint8Array(count * 2).fill(NOTHING), new Uint8Array(count * 2)];
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 2; k++) {
      const number = numbers[i * 4 + k];
      const share = Math.round(Math.min(1, Math.max(0, shares[i * 4 + k])) * 255);
      if (number < 0 || number >= NOTHING || share === 0) continue;
      [ids[i * 2 + k], covers[i * 2 + k]] = [number, share];
    }
  return { ids, covers };
}
