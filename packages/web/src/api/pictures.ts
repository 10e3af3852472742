import { api } from './client.ts';
import { uploadFile } from './upload.ts';
import type { PictureMade } from '@tender-orbit/core/contract';

/** Pixels of the longer side of pictures that are brought, at most. */
const LONGEST = 4096;

/**
 * Stores a picture file; the server makes it plain, so that browser, renderer and export see the same pixels.
 * @param data whether its numbers are data rather than colour. @throws Problem naming the file when it cannot be read.
 */
export async function bringPictureFile(file: File, longest = LONGEST, data = false): Promise<PictureMade> {
  const { hash } = await uploadFile(file, () => undefined);
  return api<PictureMade>('POST', '/pictures', { asset: hash, fileName: file.name, longest, data });
}
