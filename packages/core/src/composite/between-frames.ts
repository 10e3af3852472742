import type { TakeComposite } from '../document/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { betweenCameras, mix } from './in-set.ts';
import type { FrameDepths, LightFrame, LightParts } from './light-frame.ts';
import type { Floats, Plate, Plates } from './plate.ts';

/** Where frames of takes are had. */
interface FrameReader {
  readonly plates: Plates;
  light(take: string, frame: number, view: TakeComposite['view']): Promise<LightFrame | null>;
  parts(take: string, frame: number): Promise<LightParts | null>;
}

/** The light of a take at any time of it: between two frames each is carried along the motion of what it shows. */
export async function lightAt(
  reader: FrameReader,
  take: string,
  time: number,
  view: TakeComposite['view'],
): Promise<LightFrame | null> {
  const first = Math.floor(time);
  const from = await reader.light(take, first, view);
  if (first === time || !from) return from;
  const next = await reader.light(take, first + 1, view);
  return next && betweenLight(reader.plates, from, next, time - first);
}

/** The same light by light; null where the take does not keep its lights. */
export async function partsAt(
  reader: FrameReader,
  take: string,
  time: number,
  view: TakeComposite['view'],
): Promise<LightParts | null> {
  const first = Math.floor(time);
  const from = await reader.parts(take, first);
  if (first === time || !from) return from;
  // One after the other: a host may keep the lights of one frame alone.
  const next = await reader.parts(take, first + 1);
  const frames = [await reader.light(take, first, view), await reader.light(take, first + 1, view)] as const;
  if (!next || !frames[0] || !frames[1]) return null;
  const { plates } = reader;
  return plates.within((): LightParts => {
    const carry = carrier(plates, frames[0]!, frames[1]!, time - first);
    const parts = from.parts.flatMap(({ light, data }) => {
      const later = next.parts.find((part) => part.light === light);
      return later ? [{ light, data: carry(data, later.data) }] : [];
    });
    return { width: from.width, height: from.height, parts };
  });
}

/**
 * The frame of a take at a share of the way from one to the next, which was not rendered: light is read in both where what is seen lies in
 * them, by the motion that frames say; where they say none it is mixed as it lies. What cannot be mixed is that of the nearer frame.
 */
export function betweenLight(plates: Plates, from: LightFrame, next: LightFrame, share: number): LightFrame {
  if (from.width !== next.width || from.height !== next.height) return share < 0.5 ? from : next;
  return plates.within(() => {
    const { width, height } = from;
    const carry = carrier(plates, from, next, share);
    const [light, matte] = [carry(from.light, next.light), carry(from.matte, next.matte)];
    const made: LightFrame = { width, height, light, matte };
    if (!from.depths || !next.depths) return made;
    const nearer = share < 0.5 ? from.depths : next.depths;
    const depths: FrameDepths = { ...nearer, space: betweenSpaces(from.depths.space, next.depths.space, share) };
    if (from.depths.tint && next.depths.tint) depths.tint = carry(from.depths.tint, next.depths.tint);
    return { ...made, depths };
  });
}

/** Mixes planes of one or three numbers a pixel; what it needs stays on the stack of plates. */
function carrier(
  plates: Plates,
  from: LightFrame,
  next: LightFrame,
  share: number,
): (early: Float32Array, late: Float32Array) => Float32Array {
  const { width, height } = from;
  const count = width * height;
  const [was, is] = [from.depths?.motion, next.depths?.motion];
  const motion = was && is ? [inPixels(plates, was, height), inPixels(plates, is, height)] : null;
  const depth = plates.floats(count);
  if (motion) depth.data.set(next.depths!.depth);
  return (early, late) => {
    const channels = early.length / count;
    if (!motion) return early.map((v, i) => v + (late[i] - v) * share);
    return plates.within(() => {
      const [a, b, out] = [0, 1, 2].map(() => plates.raw(width, height));
      [early, late].forEach((plane, n) => spreadOut(plane, channels, [a, b][n]));
      plates.kernel.carry(a.at, b.at, out.at, width, height, motion[0].at, motion[1].at, depth.at, share);
      const made = new Float32Array(early.length);
      const { data } = out;
      const first = firstOf(channels);
      for (let i = 0; i < count; i++)
        for (let c = 0; c < channels; c++) made[i * channels + c] = data[i * 4 + first + c];
      return made;
    });
  };
}

/** Where numbers of a plane lie in a plate: one is its alpha, which the kernel keeps within 1. */
const firstOf = (channels: number): number => (channels === 1 ? 3 : 0);

function spreadOut(plane: Float32Array, channels: number, { data }: Plate): void {
  const first = firstOf(channels);
  data.fill(0);
  for (let i = 0, o = first; o < data.length; i++, o += 4)
    for (let c = 0; c < channels; c++) data[o + c] = plane[i * channels + c];
}

function inPixels(plates: Plates, motion: Float32Array, height: number): Floats {
  const floats = plates.floats(motion.length);
  const { data } = floats;
  for (let i = 0; i < motion.length; i++) data[i] = motion[i] * height;
  return floats;
}

/** Where camera and things are between two frames. */
function betweenSpaces(from: FrameSpace, next: FrameSpace, t: number): FrameSpace {
  const number = (a: number, b: number): number => a + (b - a) * t;
  const things = Object.entries(next.things).map(([id, thing]) => {
    const was = from.things[id] ?? thing;
    const close = thing.close && was.close ? mix(was.close, thing.close, t) : thing.close;
    return [id, { at: mix(was.at, thing.at, t), ...(close && { close }) }] as const;
  });
  return {
    camera: betweenCameras(from.camera, next.camera, t),
    ...(from.closing && next.closing && { closing: betweenCameras(from.closing, next.closing, t) }),
    shutter: number(from.shutter, next.shutter),
    ...{ aperture: number(from.aperture, next.aperture), focus: number(from.focus, next.focus) },
    things: Object.fromEntries(things),
  };
}
