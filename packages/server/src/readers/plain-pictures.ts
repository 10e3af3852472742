import sharp, { type Metadata, type Sharp } from 'sharp';
import { Problem } from '@tender-orbit/core/problem';
import { checkCount, type ModelImage } from '@tender-orbit/core/interchange';

/** Pixels of the largest picture that is taken. */
export const MOST_PIXELS = 8192 * 8192;

/**
 * Makes the pictures of a model ones that every decoder reads alike: eight bits, no orientation, no profile. glTF says what
 * the numbers in a texture mean, so profiles do not change them.
 *
 * @throws Problem `picture/broken` that names the picture.
 */
export async function plainTextures(fileName: string, images: ModelImage[]): Promise<void> {
  let texels = 0;
  for (const image of images) {
    try {
      const facts = await opened(image.bytes).metadata();
      texels += (facts.width ?? 0) * (facts.height ?? 0);
      checkCount(fileName, 'texels', texels);
      if (isPlain(facts)) await opened(image.bytes).stats();
      else {
        image.bytes = new Uint8Array(await asPng(opened(image.bytes, { ignoreIcc: true })));
        image.mimeType = 'image/png';
      }
    } catch (error) {
      if (error instanceof Problem) throw error;
      throw new Problem(
        'picture/broken',
        `The picture "${image.name}" in "${fileName}" could not be read: save it again as PNG or JPEG.`,
        image.name,
      );
    }
  }
}

/** A picture as it is meant to be seen: upright, in sRGB, eight bits. */
export interface PlainPicture {
  width: number;
  height: number;
  /** Nothing when the file itself is plain already. */
  png?: Buffer;
}

/**
 * Longest edge is brought down to `longest`; orientation is applied and colours are brought from the picture's own profile
 * to sRGB, but for `data`, whose numbers count. Drawings are drawn at `longest`.
 *
 * @throws Error of the decoder when it cannot be read
 */
export async function plainPicture(bytes: Uint8Array, longest: number, data = false): Promise<PlainPicture> {
  const facts = await opened(bytes).metadata();
  const { width, height } = facts.autoOrient;
  const drawn = facts.format === 'svg';
  const scale = drawn ? longest / Math.max(width, height) : Math.min(1, longest / Math.max(width, height));
  if (isPlain(facts) && scale === 1) {
    // Damage further in is found now, not in the middle of a render.
    await opened(bytes).stats();
    return { width, height };
  }
  const [w, h] = [width, height].map((v) => Math.max(1, Math.round(v * scale)));
  // A drawing is drawn at its size, not drawn small and blown up.
  const density = Math.min(DENSEST, Math.max(1, (facts.density ?? 72) * scale));
  const picture = opened(bytes, { ignoreIcc: data, ...(drawn && { density }) })
    .autoOrient()
    .resize(w, h, { fit: 'fill' });
  return { width: w, height: h, png: await asPng(picture) };
}

/** Dots an inch that a drawing is drawn at, at most. */
const DENSEST = 20_000;

function opened(bytes: Uint8Array, options: { ignoreIcc?: boolean; density?: number } = {}): Sharp {
  return sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error', ...options });
}

const asPng = (picture: Sharp): Promise<Buffer> =>
  picture.toColourspace('srgb').png({ compressionLevel: 6 }).toBuffer();

/** Whether browser and server read the same pixels from it as it is. */
function isPlain({ format, depth, icc, orientation, space, pages = 1 }: Metadata): boolean {
  return (
    ['png', 'jpeg', 'webp'].includes(format) &&
    depth === 'uchar' &&
    !icc &&
    (orientation ?? 1) === 1 &&
    ['srgb', 'b-w'].includes(space) &&
    pages === 1
  );
}
