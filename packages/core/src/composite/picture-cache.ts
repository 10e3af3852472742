import type { Picture } from '../picture/index.ts';

/** Keeps pictures by what they were made from, as many as there is room for; those that were asked for longest ago go first. */
export class PictureCache {
  private readonly kept = new Map<string, Picture>();
  private bytes = 0;

  /** @param most bytes that all kept pictures have together. */
  constructor(private readonly most: number) {}

  /** The picture of a key, made where it is not kept. What could not be made is tried again the next time. */
  async get(key: string, make: () => Promise<Picture | null>): Promise<Picture | null> {
    const known = this.kept.get(key);
    const picture = known ?? (await make());
    if (!picture) return null;
    this.forget(key);
    this.kept.set(key, picture);
    this.bytes += picture.data.byteLength;
    for (const old of this.kept.keys()) {
      if (this.bytes <= this.most || this.kept.size <= 1) break;
      this.forget(old);
    }
    return picture;
  }

  forget(key: string): void {
    const known = this.kept.get(key);
    if (!known) return;
    this.kept.delete(key);
    this.bytes -= known.data.byteLength;
  }
}
