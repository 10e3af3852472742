import { decode } from 'fast-png';
import {
  lightOfPicture,
  readCube,
  readLight,
  readLightParts,
  readVector,
  PictureCache,
  type CompositeReader,
  type Cube,
  type LightFrame,
  type LightParts,
  type Plates,
  type StackCache,
  type TextDrawer,
  type VectorPicture,
} from '@tender-orbit/core/composite';
import type { TakeComposite } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import { frameUrl, lightsUrl, lightUrl } from '../api/types.ts';

/** Frames of films that are kept. */
const KEPT_FILM = 12;
/** Pictures of composites in others that are kept, in bytes. */
const KEEP_NESTED = 64 * 1024 * 1024;
/** Frames of takes' light that are kept, in bytes. */
const KEEP_BYTES = 300 * 1024 * 1024;

/** Where the kind of colour of a PNG is said, and the kinds with an alpha channel (ISO/IEC 15948, 11.2.1). */
const COLOUR_TYPE = 25;
const WITH_ALPHA = [4, 6];

/** A picture file as it is stored. @returns null when it could not be had. */
export async function readPicture(url: string): Promise<Picture | null> {
  const response = await fetch(url);
  if (!response.ok) return null;
  const blob = await response.blob();
  const head = new Uint8Array(await blob.slice(0, COLOUR_TYPE + 1).arrayBuffer());
  // A canvas keeps colours multiplied by their alpha, which rounds those that are seen through.
  if (blob.type === 'image/png' && WITH_ALPHA.includes(head[COLOUR_TYPE]))
    return readStraight(await blob.arrayBuffer());
  const bitmap = await createImageBitmap(blob, {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  });
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const picture = { width: bitmap.width, height: bitmap.height, data };
  bitmap.close();
  return picture;
}

/** A PNG with alpha, its colours as they are stored. */
function readStraight(bytes: ArrayBuffer): Picture {
  const { width, height, data, channels, depth } = decode(bytes);
  const out = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Number(data[i * channels + (channels === 4 ? c : 0)]) >> (depth - 8);
    out[i * 4 + 3] = Number(data[i * channels + channels - 1]) >> (depth - 8);
  }
  return { width, height, data: out };
}

async function inflated(response: Response): Promise<Uint8Array> {
  const stream = response.body!.pipeThrough(new DecompressionStream('deflate'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** What composites are made of, as the server has it; light and stills are kept. */
export class TakePictures implements CompositeReader {
  readonly pictures = new PictureCache(KEEP_NESTED);
  /** How often something was asked for that is not there. */
  missed = 0;
  private readonly lights = new Map<string, Promise<LightFrame | null>>();
  private readonly stills = new Map<string, Picture>();
  private readonly lists = new Map<string, Promise<string[]>>();
  private readonly films = new Map<string, Picture>();
  private readonly cubes = new Map<string, Cube>();
  private readonly vectors = new Map<string, VectorPicture>();
  /** The lights of the frame that was asked for last: they take a multiple of its light. */
  private latest: { key: string; parts: Promise<LightParts | null> } | null = null;

  /** @param cache keeps what lies below a change, where one composite is worked on. */
  constructor(
    readonly plates: Plates,
    readonly text: TextDrawer,
    readonly cache?: StackCache,
  ) {}

  /** The light of a frame, or about it where a take has none; null when the frame is not there. */
  light(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame | null> {
    const key = `${take} ${frame}`;
    const known = this.lights.get(key);
    const light = known ?? this.read(take, frame, view).catch(() => null);
    this.lights.delete(key);
    this.lights.set(key, light);
    if (!known)
      void light.then((found) => {
        // A frame that is not there yet may be there later.
        if (!found) {
          this.missed++;
          this.lights.delete(key);
        } else this.forget(found.width * found.height * 16);
      });
    return light;
  }

  private forget(each: number): void {
    for (const key of this.lights.keys()) {
      if (this.lights.size * each <= KEEP_BYTES) break;
      this.lights.delete(key);
    }
  }

  private async read(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame | null> {
    const stored = await fetch(lightUrl(take, frame));
    if (stored.ok) return readLight(await inflated(stored));
    const picture = await readPicture(frameUrl(take, frame));
    return picture && lightOfPicture(picture, view);
  }

  parts(take: string, frame: number): Promise<LightParts | null> {
    const key = `${take} ${frame}`;
    if (this.latest?.key !== key) {
      const parts = fetch(lightsUrl(take, frame))
        .then(async (stored) => (stored.ok ? readLightParts(await inflated(stored)) : null))
        .catch(() => null);
      this.latest = { key, parts };
    }
    return this.latest.parts;
  }

  async vector(asset: string): Promise<VectorPicture | null> {
    const known = this.vectors.get(asset);
    if (known) return known;
    const response = await fetch(`/api/assets/${asset}`).catch(() => null);
    if (!response?.ok) {
      this.missed++;
      return null;
    }
    const vector = readVector(await response.text(), 'the logo');
    this.vectors.set(asset, vector);
    return vector;
  }

  async still(asset: string): Promise<Picture | null> {
    const picture = this.stills.get(asset) ?? (await readPicture(`/api/assets/${asset}`).catch(() => null));
    if (picture) this.stills.set(asset, picture);
    else this.missed++;
    return picture;
  }

  async cube(asset: string): Promise<Cube | null> {
    const known = this.cubes.get(asset);
    if (known) return known;
    const response = await fetch(`/api/assets/${asset}`).catch(() => null);
    if (!response?.ok) {
      this.missed++;
      return null;
    }
    const cube = readCube(await response.text(), 'the table');
    this.cubes.set(asset, cube);
    return cube;
  }

  async film(list: string, frame: number): Promise<Picture | null> {
    const known = this.lists.get(list) ?? readList(list);
    this.lists.set(list, known);
    const asset = (await known.catch(() => []))[frame];
    if (!asset) {
      // It may be there when it is asked for again.
      this.lists.delete(list);
      this.missed++;
      return null;
    }
    const picture = this.films.get(asset) ?? (await readPicture(`/api/assets/${asset}`).catch(() => null));
    if (!picture) {
      this.missed++;
      return null;
    }
    this.films.delete(asset);
    this.films.set(asset, picture);
    for (const old of this.films.keys()) {
      if (this.films.size <= KEPT_FILM) break;
      this.films.delete(old);
    }
    return picture;
  }
}

/** The pictures of a film by the hash of its list. */
async function readList(list: string): Promise<string[]> {
  const response = await fetch(`/api/assets/${list}`);
  return response.ok ? (await response.text()).split('\n') : [];
}
