import { Problem } from '@tender-orbit/core/problem';
import { api } from './client.ts';
import { uploadFile } from './upload.ts';
import { LONGEST_FOOTAGE } from '@tender-orbit/core/contract';
import type { FilmMade, FilmRequest, PictureMade, SequenceMade } from '@tender-orbit/core/contract';

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

/** Stores a film file as a picture for each frame. @throws Problem naming the file when it cannot be read. */
export async function bringFilm(
  campaign: string,
  file: File,
  how: Partial<Omit<FilmRequest, 'asset' | 'fileName'>>,
  onProgress: (share: number) => void = () => undefined,
): Promise<FilmMade> {
  const { hash } = await uploadFile(file, onProgress);
  return api<FilmMade>('POST', `/campaigns/${campaign}/films`, { asset: hash, fileName: file.name, ...how });
}

/**
 * Stores pictures as a film, in the order of the numbers in their names.
 * @throws Problem naming the first of another size, or that cannot be read.
 */
export async function bringSequence(
  campaign: string,
  files: readonly File[],
  longest: number,
  onProgress: (share: number) => void = () => undefined,
): Promise<Omit<FilmMade, 'rate' | 'cut'>> {
  if (files.length > LONGEST_FOOTAGE)
    throw new Problem(
      'film/too-long',
      `A sequence has at most ${LONGEST_FOOTAGE} pictures, and these are ${files.length}: bring a part of it.`,
      files[0].name,
    );
  const ordered = [...files].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const frames: string[] = [];
  let size: PictureMade | null = null;
  for (const file of ordered) {
    const picture = await bringPictureFile(file, longest);
    size ??= picture;
    if (picture.width !== size.width || picture.height !== size.height)
      throw new Problem(
        'film/sizes',
        `"${file.name}" is ${picture.width} x ${picture.height} pixels, the first of the sequence ${size.width} x ${size.height}: bring pictures of one size.`,
        file.name,
      );
    frames.push(picture.asset);
    onProgress(frames.length / ordered.length);
  }
  const { list } = await api<SequenceMade>('POST', `/campaigns/${campaign}/films/sequence`, { frames });
  return { list, frames, width: size!.width, height: size!.height };
}
