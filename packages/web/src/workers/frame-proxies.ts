import type { Picture } from '@tender-orbit/core/picture';
import type { FileStore } from './proxy-store.ts';

/** How well their pictures are kept: no step is seen while they pass by. */
const QUALITY = 0.88;

/**
 * Small pictures of frames, compressed (JPEG), so that there is room for those of a whole film: what is played before its frames are
 * made. The one that was used last goes last.
 */
export class FrameProxies {
  private readonly files = new Map<string, Blob>();
  private bytes = 0;

  /** What lies in the store. */
  private readonly stored = new Set<string>();
  /** Until then what is stored is not known. */
  readonly ready: Promise<void>;

  /** @param most bytes that are kept in memory. @param store keeps them between visits. */
  constructor(
    private readonly most: number,
    private readonly store: FileStore | null = null,
  ) {
    this.ready = (store?.names() ?? Promise.resolve([])).then((names) =>
      names.forEach((name) => this.stored.add(name)),
    );
  }

  has(key: string): boolean {
    return this.files.has(key) || this.stored.has(key);
  }

  /** Keeps an opaque picture. @param most pixels across; a wider picture is made smaller. */
  async put(key: string, { width, height, data }: Picture, most: number): Promise<void> {
    const scale = Math.min(1, most / width);
    const canvas = new OffscreenCanvas(Math.round(width * scale), Math.max(1, Math.round(height * scale)));
    const whole = new ImageData(new Uint8ClampedArray(data), width, height);
    const context = canvas.getContext('2d')!;
    if (scale === 1) context.putImageData(whole, 0, 0);
    else {
      const bitmap = await createImageBitmap(whole);
      context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
      bitmap.close();
    }
    const file = await canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
    this.keep(key, file);
    if (!this.store) return;
    this.stored.add(key);
    await this.store.keep(key, file);
  }

  /** A picture as it was kept, but for what compressing took; null when it is not there. */
  async get(key: string): Promise<Picture | null> {
    const file = this.files.get(key) ?? (this.stored.has(key) ? await this.store?.read(key) : undefined);
    if (!file) {
      this.stored.delete(key);
      return null;
    }
    this.keep(key, file);
    const bitmap = await createImageBitmap(file);
    const { width, height } = bitmap;
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    return { width, height, data: context.getImageData(0, 0, width, height).data };
  }

  private keep(key: string, file: Blob): void {
    this.drop(key);
    this.files.set(key, file);
    this.bytes += file.size;
    for (const old of this.files.keys()) {
      if (this.bytes <= this.most || old === key) break;
      this.drop(old);
    }
  }

  private drop(key: string): void {
    this.bytes -= this.files.get(key)?.size ?? 0;
    this.files.delete(key);
  }
}
