import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { inflateSync } from 'node:zlib';
import {
  composeTake,
  lightOfPicture,
  readCube,
  readLight,
  readLightParts,
  readVector,
  type CompositeReader,
  type Cube,
  type LightFrame,
  type LightParts,
  type Plates,
  type TextDrawer,
  type VectorPicture,
} from '@tender-orbit/core/composite';
import type { TakeComposite } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import { Problem } from '@tender-orbit/core/problem';
import type { TakeFrame } from '@tender-orbit/core/promo';
import type { FrameRate } from '@tender-orbit/core/time';
import { decodeImage } from '../workers/index.ts';

/** Where the frames of takes and the files of stills lie. */
export interface PictureFiles {
  takeFolders: Record<string, string>;
  stills: Record<string, string>;
  /** Files of the frames of films, by the hash of their list. */
  films: Record<string, string[]>;
  /** Lists of the promo's footage, by its id. */
  footage: Record<string, string>;
  /** Files of tables of colours and of vector pictures, by hash. */
  cubes: Record<string, string>;
  vectors: Record<string, string>;
}

/** What pictures are worked over with, and where those of other cuts come from. */
export interface PictureSources {
  plates: Plates;
  /** A frame of another cut; null when it is none. */
  cut(id: string, frame: number): Promise<Picture> | null;
}

/** Pictures that are kept: as many as a frame in a transition of blended clips is made of, twice. */
const KEPT = 8;

/** Frames of light that are kept: several pictures between two of them are made of the same ones. */
const KEPT_LIGHT = 2;

/** What a promo's clips show: frames of takes as they are or with the composite of their shot, of footage, and of other cuts. */
export class TakePictures implements CompositeReader {
  readonly plates: Plates;
  private readonly ready = new Map<string, Picture>();
  private readonly lights = new Map<string, LightFrame>();
  private readonly stills = new Map<string, Picture>();
  private readonly films = new Map<string, Picture>();
  private readonly cubes = new Map<string, Cube>();
  private readonly vectors = new Map<string, VectorPicture>();

  constructor(
    private readonly files: PictureFiles,
    private readonly composites: Readonly<Record<string, TakeComposite>>,
    private readonly rate: FrameRate,
    readonly text: TextDrawer,
    private readonly sources: PictureSources,
  ) {
    this.plates = sources.plates;
  }

  /** Makes the pictures of frames. The last few are kept besides: the same frame twice is worked out once. */
  async load(parts: readonly TakeFrame[]): Promise<void> {
    const wanted = new Set<string>();
    for (const { take, frame } of parts) {
      const key = `${take} ${frame}`;
      wanted.add(key);
      const known = this.ready.get(key);
      this.ready.delete(key);
      this.ready.set(key, known ?? (await this.make(take, frame)));
    }
    for (const old of this.ready.keys()) {
      if (this.ready.size <= KEPT) break;
      if (!wanted.has(old)) this.ready.delete(old);
    }
  }

  /** A picture that was loaded. */
  readonly loaded = ({ take, frame }: TakeFrame): Picture | null => this.ready.get(`${take} ${frame}`) ?? null;

  private async make(take: string, frame: number): Promise<Picture> {
    // Only takes of a set know how to be between their frames.
    const whole = Math.round(frame);
    const footage = this.files.footage[take];
    if (footage !== undefined) return (await this.film(footage, whole)) ?? missing(whole);
    const cut = this.sources.cut(take, whole);
    if (cut) return cut;
    const composite = this.composites[take];
    const made = composite && (await composeTake(take, composite, frame, this.rate, this));
    // Without light the frame is missing, and reading it says so.
    return made ?? (await this.plain(take, whole));
  }

  private path(take: string, frame: number, kind: 'webp' | 'light' | 'lights'): string {
    return `${this.files.takeFolders[take]}/${String(frame).padStart(5, '0')}.${kind}`;
  }

  private plain(take: string, frame: number): Promise<Picture> {
    return picture(this.path(take, frame, 'webp'), `frame ${frame + 1}`);
  }

  async light(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame | null> {
    const key = `${take} ${frame} ${view}`;
    const light = this.lights.get(key) ?? (await this.readFrame(take, frame, view));
    this.lights.delete(key);
    if (light) this.lights.set(key, light);
    for (const old of this.lights.keys()) {
      if (this.lights.size <= KEPT_LIGHT) break;
      this.lights.delete(old);
    }
    return light;
  }

  private async readFrame(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame | null> {
    if (!this.files.takeFolders[take]) return null;
    const path = this.path(take, frame, 'light');
    if (existsSync(path)) return readLight(new Uint8Array(inflateSync(await readFile(path))));
    return existsSync(this.path(take, frame, 'webp')) ? lightOfPicture(await this.plain(take, frame), view) : null;
  }

  async parts(take: string, frame: number): Promise<LightParts | null> {
    if (!this.files.takeFolders[take]) return null;
    const path = this.path(take, frame, 'lights');
    return existsSync(path) ? readLightParts(new Uint8Array(inflateSync(await readFile(path)))) : null;
  }

  async vector(asset: string): Promise<VectorPicture | null> {
    const path = this.files.vectors[asset];
    if (!path) return null;
    const known = this.vectors.get(asset) ?? readVector(await readFile(path, 'utf8'), 'a logo of the composite');
    this.vectors.set(asset, known);
    return known;
  }

  async still(asset: string): Promise<Picture | null> {
    const path = this.files.stills[asset];
    if (!this.stills.has(asset) && path) this.stills.set(asset, await picture(path, 'a still of the composite'));
    return this.stills.get(asset) ?? null;
  }

  async cube(asset: string): Promise<Cube | null> {
    const path = this.files.cubes[asset];
    if (!path) return null;
    const known = this.cubes.get(asset) ?? readCube(await readFile(path, 'utf8'), 'a table of the composite');
    this.cubes.set(asset, known);
    return known;
  }

  async film(list: string, frame: number): Promise<Picture | null> {
    const path = this.files.films[list]?.[frame];
    if (!path) return null;
    const known = this.films.get(path) ?? (await picture(path, 'a frame of footage'));
    this.films.set(path, known);
    for (const old of this.films.keys()) {
      if (this.films.size <= KEPT) break;
      this.films.delete(old);
    }
    return known;
  }
}

/** @throws Problem: footage whose frames are gone is said, not left out. */
function missing(frame: number): never {
  throw new Problem(
    'footage/missing',
    `Frame ${frame + 1} of footage in the promo is no longer stored: bring it again.`,
  );
}

async function picture(path: string, what: string): Promise<Picture> {
  const image = await decodeImage(await readFile(path), what);
  return { ...image, data: new Uint8ClampedArray(image.data) };
}
