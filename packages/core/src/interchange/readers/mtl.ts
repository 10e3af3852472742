import { srgbToLinear, type Finish, type TextureSlot, type TextureUse } from '../../finish/index.ts';
import type { ModelImage } from '../model.ts';
import { ByteReader } from './byte-reader.ts';
import { plainFinish, resourceNamed, type Resources } from './read.ts';

/** A finish of a library, with the pictures that it wears. */
export interface MtlFinish {
  finish: Finish;
  pictures: Array<{ slot: TextureSlot; image: ModelImage; use: Omit<TextureUse, 'image'> }>;
}

const MIME: Record<string, string> = { png: 'image/png', jpg: 'image/jpeg', jpeg: 'image/jpeg', webp: 'image/webp' };
/** How many words follow each option of a picture; three numbers may be cut short. */
const OPTION_WORDS: Record<string, number> = {
  ...{ '-s': 3, '-o': 3, '-t': 3, '-mm': 2 },
  ...{
    '-bm': 1,
    '-clamp': 1,
    '-blendu': 1,
    '-blendv': 1,
    '-boost': 1,
    '-texres': 1,
    '-imfchan': 1,
    '-type': 1,
    '-cc': 1,
  },
};
const SLOTS: Record<string, TextureSlot> = { map_kd: 'baseColor', norm: 'normal', map_ke: 'emissive' };

/**
 * The finishes of a Wavefront material library: the Phong exponent as roughness, or the physical extension's own values
 * (Pr, Pm, Ke). What cannot be taken is said in `notes`.
 */
export function readMtl(path: string, resources: Resources, notes: string[]): Map<string, MtlFinish> {
  const finishes = new Map<string, MtlFinish>();
  const bytes = resourceNamed(resources, path);
  if (!bytes) {
    notes.push(`"${baseName(path)}" was not with it: its finishes are plain.`);
    return finishes;
  }
  const reader = new ByteReader(bytes);
  let now: MtlFinish | null = null;
  for (; !reader.atEnd; reader.nextLine()) {
    const key = reader.word().toLowerCase();
    if (key === 'newmtl') {
      const name = reader.rest();
      now = { finish: plainFinish(name || 'Surface'), pictures: [] };
      finishes.set(name, now);
    } else if (now && key in VALUES) VALUES[key](now.finish, [reader.number(), reader.number(), reader.number()]);
    else if (now && key in SLOTS) addPicture(now, SLOTS[key], reader, resources, notes);
    else if (now && /^(map_|bump$|disp$|decal$|refl$)/.test(key)) {
      const { path: left } = pictureOf(reader);
      if (left)
        notes.push(`The picture "${baseName(left)}" (${key}) was left out: only colour, normal and glow are read.`);
    }
  }
  return finishes;
}

type Value = (finish: Finish, values: [number, number, number]) => void;

const share = (value: number): number => Math.min(1, Math.max(0, value));
const VALUES: Record<string, Value> = {
  kd: (finish, rgb) => {
    if (rgb.every(Number.isFinite)) finish.baseColor = rgb.map((v) => srgbToLinear(share(v))) as Finish['baseColor'];
  },
  ke: (finish, rgb) => {
    if (!rgb.every(Number.isFinite)) return;
    const strength = Math.max(1, ...rgb);
    finish.emissive = rgb.map((v) => Math.max(0, v) / strength) as Finish['emissive'];
    finish.emissiveStrength = strength;
  },
  ns: (finish, [exponent]) => {
    if (exponent >= 0) finish.roughness = Math.sqrt(2 / (exponent + 2));
  },
  pr: (finish, [value]) => {
    if (Number.isFinite(value)) finish.roughness = share(value);
  },
  pm: (finish, [value]) => {
    if (Number.isFinite(value)) finish.metallic = share(value);
  },
  ni: (finish, [value]) => {
    if (value >= 1) finish.ior = Math.min(4, value);
  },
  d: (finish, [value]) => setAlpha(finish, value),
  tr: (finish, [value]) => setAlpha(finish, 1 - value),
};

function setAlpha(finish: Finish, alpha: number): void {
  if (!Number.isFinite(alpha)) return;
  finish.alpha = share(alpha);
  finish.alphaMode = finish.alpha < 1 ? 'blend' : 'opaque';
}

function addPicture(to: MtlFinish, slot: TextureSlot, reader: ByteReader, resources: Resources, notes: string[]): void {
  const { path, ...use } = pictureOf(reader);
  if (!path) return;
  const name = baseName(path);
  const mimeType = MIME[name.split('.').pop()!.toLowerCase()];
  const bytes = resourceNamed(resources, path);
  if (!bytes || !mimeType) {
    notes.push(`The picture "${name}" was ${bytes ? 'of a kind that is not read' : 'not with it'}.`);
    return;
  }
  to.pictures.push({ slot, use, image: { name, mimeType, bytes: new Uint8Array(bytes) } });
  // A picture is the colour; the diffuse value beside it only dims it, and many programs write 0 there.
  if (slot === 'baseColor' && Math.max(...to.finish.baseColor) < 0.001) to.finish.baseColor = [1, 1, 1];
  if (slot === 'emissive' && Math.max(...to.finish.emissive) === 0) to.finish.emissive = [1, 1, 1];
}

/** The path and placing of a picture: options first, then a name that may have spaces. */
function pictureOf(reader: ByteReader): Omit<TextureUse, 'image'> & { path: string } {
  const use = { offset: [0, 0], rotation: 0, scale: [1, 1], strength: 1, wrap: ['repeat', 'repeat'] } as Omit<
    TextureUse,
    'image'
  >;
  for (;;) {
    const before = reader.at;
    const option = reader.word().toLowerCase();
    const words = OPTION_WORDS[option];
    if (words === undefined) {
      reader.at = before;
      // Rows count from the bottom there, from the top here.
      use.offset[1] = 1 - use.scale[1] - use.offset[1];
      return { ...use, path: reader.rest() };
    }
    const values: string[] = [];
    for (let i = 0; i < words; i++) {
      const here = reader.at;
      const word = reader.word();
      // Numbers of a row may be left out from the end.
      if (i > 0 && !Number.isFinite(Number(word))) {
        reader.at = here;
        break;
      }
      values.push(word);
    }
    const [a, b] = values.map(Number);
    if (option === '-s') use.scale = [finite(a, 1), finite(b, 1)];
    else if (option === '-o') use.offset = [finite(a, 0), finite(b, 0)];
    else if (option === '-bm') use.strength = finite(a, 1);
    else if (option === '-clamp' && values[0]?.toLowerCase() === 'on') use.wrap = ['clamp', 'clamp'];
  }
}

const finite = (value: number | undefined, usual: number): number =>
  value !== undefined && Number.isFinite(value) ? value : usual;

export const baseName = (path: string): string => path.trim().split(/[\\/]/).pop()!;
