import { shortened } from '@tender-orbit/core/text';
import { LONGEST_FILM } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';

/** Longest edge that art is kept at, pixels: enough to fill a 4K frame with a label. */
const LARGEST = 4096;
/** Longest edge that vector art is drawn at. */
const DRAWN = 2048;

/** A picture as it is stored: one of the formats that the tracer reads. */
export interface ArtPage {
  name: string;
  file: Blob;
  width: number;
  height: number;
  /** The other frames of a film, which `file` begins. */
  film?: Blob[];
}

/** Longest edge that a film's frames are kept at, pixels. */
const FILMED = 1280;

/**
 * The pictures in a file: itself, each page of a PDF drawn at `dpi`, or the frames of a film at `rate` a second. Vector art is drawn; pictures that are larger
 * than anything could show are brought down.
 * @throws Problem naming the file when it cannot be read.
 */
export async function artOf(file: File, dpi: number, rate = 24): Promise<ArtPage[]> {
  const name = shortened(file.name.replace(/\.[a-z0-9]+$/i, ''), 110) || 'Art';
  if (/\.(mp4|webm|mov)$/i.test(file.name)) return [await filmOf(file, name, rate)];
  if (file.type === 'application/pdf' || /\.pdf$/i.test(file.name)) return pagesOf(file, name, dpi);
  const vector = file.type === 'image/svg+xml' || /\.svg$/i.test(file.name);
  const image = await imageOf(file, vector);
  const longest = Math.max(image.width, image.height);
  const scale = vector ? DRAWN / longest : Math.min(1, LARGEST / longest);
  const [width, height] = [image.width, image.height].map((v) => Math.max(1, Math.round(v * scale)));
  const stored = /^image\/(png|jpeg|webp)$/.test(file.type) && scale === 1;
  return [{ name, width, height, file: stored ? file : await pngOf(image.source, width, height) }];
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

/** Each frame of a film as it is shown in the middle of a frame of the shot. */
async function filmOf(file: File, name: string, rate: number): Promise<ArtPage> {
  const film = document.createElement('video');
  const url = URL.createObjectURL(file);
  const happens = (event: string): Promise<void> =>
    new Promise((done, fail) => {
      film.addEventListener(event, () => done(), { once: true });
      film.addEventListener('error', () => fail(new Error('the film is broken')), { once: true });
    });
  try {
    Object.assign(film, { src: url, muted: true, preload: 'auto' });
    await happens('loadeddata');
    const count = Math.max(1, Math.min(LONGEST_FILM, Math.round(film.duration * rate)));
    const scale = Math.min(1, FILMED / Math.max(film.videoWidth, film.videoHeight));
    const [width, height] = [film.videoWidth, film.videoHeight].map((v) => Math.max(1, Math.round(v * scale)));
    const context = canvasOf(width, height);
    const frames: Blob[] = [];
    for (let i = 0; i < count; i++) {
      const there = happens('seeked');
      film.currentTime = Math.min(Math.max(0, film.duration - 0.001), (i + 0.5) / rate);
      await there;
      context.drawImage(film, 0, 0, width, height);
      frames.push(await blobOf(context.canvas, 'image/jpeg'));
    }
    return { name, width, height, file: frames[0], film: frames.slice(1) };
  } catch {
    throw new Problem(
      'art/broken',
      `"${file.name}" could not be read as a film: bring an MP4 (H.264) or WebM (VP9) file.`,
      file.name,
    );
  } finally {
    URL.revokeObjectURL(url);
  }
}

async function pngOf(source: CanvasImageSource, width: number, height: number): Promise<Blob> {
  const context = canvasOf(width, height);
  context.drawImage(source, 0, 0, width, height);
  return blobOf(context.canvas);
}

function blobOf(canvas: HTMLCanvasElement, type = 'image/png'): Promise<Blob> {
  return new Promise((done, fail) =>
    canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error('the picture could not be stored'))), type, 0.92),
  );
}

async function pagesOf(file: File, name: string, dpi: number): Promise<ArtPage[]> {
  // The reader is large and seldom needed.
  const { getDocument, GlobalWorkerOptions } = await import('pdfjs-dist');
  const { default: workerUrl } = await import('pdfjs-dist/build/pdf.worker.min.mjs?url');
  GlobalWorkerOptions.workerSrc = workerUrl;
  try {
    const pdf = await getDocument({ data: await file.arrayBuffer() }).promise;
    const pages: ArtPage[] = [];
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
