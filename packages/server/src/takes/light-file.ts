import { rename, writeFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { writeLight, type LightFrame } from '@tender-orbit/core/composite';

/** The light of a frame as it lies on disk: by its logarithm, compressed. */
export const packLight = (frame: LightFrame): Uint8Array => deflateSync(writeLight(frame), { level: 4 });

/** Writes a frame's light, whole or not at all. */
export async function writeLightFile(path: string, frame: LightFrame): Promise<void> {
  await writeFile(`${path}.part`, packLight(frame));
  await rename(`${path}.part`, path);
}
