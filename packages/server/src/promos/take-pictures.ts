import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { inflateSync } from 'node:zlib';
import {
  asked,
  compileLayers,
  composeShot,
  lightOfPicture,
  readLight,
  type LightFrame,
  type TextDrawer,
} from '@tender-orbit/core/composite';
import type { TakeComposite } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import type { FrameRate } from '@tender-orbit/core/time';
import { decodeImage } from '../workers/index.ts';

/** Where the frames of takes and the files of stills lie. */
export interface PictureFiles {
  takeFolders: Record<string, string>;
  stills: Record<string, string>;
}

/** What a promo's clips show: frames of takes as they are, or with the composite of their shot. */
export class TakePictures {
  private last: { key: string; picture: Picture } | null = null;
  private readonly stills = new Map<string, Picture>();

  constructor(
    private readonly files: PictureFiles,
    private readonly composites: Readonly<Record<string, TakeComposite>>,
    private readonly rate: FrameRate,
    private readonly text: TextDrawer,
  ) {}

  /** The picture of a frame of a take. The same frame twice is worked out once. */
  async at(take: string, frame: number): Promise<Picture> {
    const key = `${take} ${frame}`;
    if (this.last?.key !== key) {
      const composite = this.composites[take];
      const picture = composite ? await this.composed(take, composite, frame) : await this.plain(take, frame);
      this.last = { key, picture };
    }
    return this.last!.picture;
  }

  private path(take: string, frame: number, kind: 'webp' | 'light'): string {
    return `${this.files.takeFolders[take]}/${String(frame).padStart(5, '0')}.${kind}`;
  }

  private plain(take: string, frame: number): Promise<Picture> {
    return picture(this.path(take, frame, 'webp'), `frame ${frame + 1}`);
  }

  private async light(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame> {
    const path = this.path(take, frame, 'light');
    if (existsSync(path)) return readLight(new Uint8Array(inflateSync(await readFile(path))));
    return lightOfPicture(await this.plain(take, frame), view);
  }

  private async composed(take: string, composite: TakeComposite, frame: number): Promise<Picture> {
    const { takes, stills } = asked(compileLayers(composite.shot).at(frame));
    const own = await this.light(take, frame, composite.view);
    const lights = new Map([['', own]]);
    for (const other of takes)
      if (this.files.takeFolders[other] && existsSync(this.path(other, frame, 'webp')))
        lights.set(other, await this.light(other, frame, composite.view));
    for (const still of stills)
      if (!this.stills.has(still) && this.files.stills[still])
        this.stills.set(still, await picture(this.files.stills[still], 'a still of the composite'));
    return composeShot(composite, frame, this.rate, own, { takes: lights, stills: this.stills, text: this.text });
  }
}

async function picture(path: string, what: string): Promise<Picture> {
  const image = await decodeImage(await readFile(path), what);
  return { ...image, data: new Uint8ClampedArray(image.data) };
}
