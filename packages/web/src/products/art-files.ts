import { shortened } from '@tender-orbit/core/text';
import { LONGEST_FILM } from '@tender-orbit/core/document';

import { Problem } from '@tender-orbit/core/problem';
import { bringFilm, bringPictureFile, uploadFile } from '../api/index.ts';

/** Longest edge that art is kept at, pixels: enough to fill a 4K frame with a label. Drawings are drawn at it. */
const LARGEST = 4096;
/** Longest edge of a drawing without a size of its own, where one is looked at. */
const DRAWN = 2048;
/** Longest edge that a film's frames are kept at, pixels. */
const FILMED = 1280;

/** A picture as it is stored: one that every renderer reads alike. */
export interface ArtPage {
  name: string;
  asset: string;
  width: number;
  height: number;
  /** A film: its frames, of which `asset` is the first. */
  film?: string[];
}

export interface ArtOptions {
  /** Dots an inch that the pages of a PDF are drawn at. */
  dpi?: number;
  /** Frames a second that a film is cut into. */
  rate?: number;
  /** The numbers count, not the colours that they stand for: a normal map, say. */
  data?: boolean;
  /** Says what is being stored. */
  saying?: (what: string) => void;
}

/** A page before it is stored. */
interface Drawn {
  name: string;
  file: Blob;
  width: number;
  height: number;
}

/**
 * Stores the pictures in a file: itself, each page of a PDF, or the frames of a film. The server makes pictures plain, so
 * that browser, renderer and export see the same pixels.
 * @throws Problem naming the file when it cannot be read.
 */
export async function storeArt(campaign: string, file: File, options: ArtOptions = {}): Promise<ArtPage[]> {
  const { dpi = 300, rate = 24, data = false, saying = () => undefined } = options;
  const name = shortened(file.name.replace(/\.[a-z0-9]+$/i, ''), 110) || 'Art';
  if (/\.(mp4|webm|mov|gif)$/i.test(file.name)) {
    saying(name);
    const how = { rate, most: LONGEST_FILM, whole: false, longest: FILMED, exact: false };
    const { frames, width, height } = await bringFilm(campaign, file, how);
    return [{ name, asset: frames[0], width, height, ...(frames.length > 1 && { film: frames }) }];
  }
  if (file.type !== 'application/pdf' && !/\.pdf$/i.test(file.name))
    return [{ name, ...(await bringPictureFile(file, LARGEST, data)) }];
  const pages: ArtPage[] = [];
  for (const page of await pagesOf(file, name, dpi)) {
    saying(page.name);
    const { hash } = await uploadFile(page.file, () => undefined);
    pages.push({ name: page.name, asset: hash, width: page.width, height: page.height });
  }
  return pages;
}

/** The pixels of a picture, brought down to `edge`. */
export async function pixelsOfFile(file: File, edge: number): Promise<ImageData> {
  const image = await imageOf(file, /\.svg$/i.test(file.name));
  const scale = Math.min(1, edge / Math.max(image.width, image.height));
  const [width, height] = [image.width, image.height].map((v) => Math.max(1, Math.round(v * scale)));
  const context = canvasOf(width, height);
  context.drawImage(image.source, 0, 0, width, height);
  return context.getImageData(0, 0, width, height);
}

interface Drawable {
  source: CanvasImageSource;
  width: number;
  height: number;
}

async function imageOf(file: File, vector: boolean): Promise<Drawable> {
  const url = URL.createObjectURL(vector ? new Blob([file], { type: 'image/svg+xml' }) : file);
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    // A drawing without a size of its own gets a square.
    return { source: image, width: image.naturalWidth || DRAWN, height: image.naturalHeight || DRAWN };
  } catch {
    throw new Problem(
      'art/broken',
      `"${file.name}" could not be read as a picture: bring a PNG, JPEG, WebP, SVG or PDF file.`,
      file.name,
    );
  } finally {
    setTimeout(() => URL.revokeObjectURL(url), 60_000);
  }
}

function canvasOf(width: number, height: number): CanvasRenderingContext2D {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width, height });
  return canvas.getContext('2d', { willReadFrequently: true })!;
}

function blobOf(canvas: HTMLCanvasElement, type = 'image/png'): Promise<Blob> {
  return new Promise((done, fail) =>
    canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error('the picture could not be stored'))), type, 0.92),
  );
}

async function pagesOf(file: File, name: string, dpi: number): Promise<Drawn[]> {
  // The reader is large and seldom needed.
  const { getDocument, GlobalWorkerOptions } = await import('pdfjs-dist');
  const { default: workerUrl } = await import('pdfjs-dist/build/pdf.worker.min.mjs?url');
  GlobalWorkerOptions.workerSrc = workerUrl;
  try {
    const pdf = await getDocument({ data: await file.arrayBuffer() }).promise;
    const pages: Drawn[] = [];
    for (let n = 1; n <= Math.min(pdf.numPages, 24); n++) {
      const page = await pdf.getPage(n);
      const { width, height } = page.getViewport({ scale: 1 });
      const scale = Math.min(dpi / 72, LARGEST / Math.max(width, height));
      const viewport = page.getViewport({ scale });
      const context = canvasOf(Math.ceil(viewport.width), Math.ceil(viewport.height));
      await page.render({ canvas: context.canvas, canvasContext: context, viewport }).promise;
      pages.push({
        name: pdf.numPages > 1 ? `${name} ${n}` : name,
        file: await blobOf(context.canvas),
        width: context.canvas.width,
        height: context.canvas.height,
      });
    }
    return pages;
  } catch {
    throw new Problem('art/broken', `"${file.name}" could not be read as a PDF: save it again and retry.`, file.name);
  }
}
