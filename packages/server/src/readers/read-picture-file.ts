import { readFile, writeFile } from 'node:fs/promises';
import { Problem } from '@tender-orbit/core/problem';
import { plainPicture } from './plain-pictures.ts';

export interface PictureTask {
  kind: 'picture';
  fileName: string;
  path: string;
  /** Longest edge that it is kept at, and that drawings are drawn at, pixels. */
  longest: number;
  data: boolean;
  out: string;
}

export interface PictureRead {
  width: number;
  height: number;
  /** Whether a plain copy was written; else the file itself is plain. */
  copied: boolean;
}

/** Makes a picture plain. Drawings (SVG) become pixels here: their scripts and outside files never come to anyone. */
export async function readPictureFile({ fileName, path, longest, data, out }: PictureTask): Promise<PictureRead> {
  try {
    const { width, height, png } = await plainPicture(new Uint8Array(await readFile(path)), longest, data);
    if (png) await writeFile(out, png);
    return { width, height, copied: png !== undefined };
  } catch {
    throw new Problem(
      'picture/broken',
      `"${fileName}" could not be read as a picture: bring a PNG, JPEG, WebP, TIFF, AVIF or SVG file.`,
      fileName,
    );
  }
}
