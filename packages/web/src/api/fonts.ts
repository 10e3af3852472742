import type { FontMade } from '@tender-orbit/core/contract';
import { api } from './client.ts';
import { uploadFile } from './upload.ts';

/** Stores a font file that titles can be set in. @throws Problem naming the file when it is none. */
export async function bringFontFile(file: File): Promise<FontMade> {
  const { hash } = await uploadFile(file, () => undefined);
  return api<FontMade>('POST', '/fonts', { asset: hash, fileName: file.name });
}
