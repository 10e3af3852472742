import type { TakeComposite } from '../document/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { betweenCameras, mix } from './in-set.ts';
import type { LightFrame, LightParts } from './light-frame.ts';
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
      return later ? [{ light, data: carry({ light: data }, { light: later.data }).light }] : [];
    });
    return { width: from.width, height: from.height, parts };
  });
}

/**
 * The frame of a take at a share of the way from one to the next, which was not rendered: light is read in both where what is seen lies in
 * them, by the motion that frames say; where they say none it is mixed as it lies. What cannot be mixed is that of the nearer frame.
 */
export function betweenLight(plates: Plates, from: LightFrame, next: LightFrame, share: number): LightFrame {
  const nearer = share < 0.5 ? from : next;
  const { width, height } = from;
  if (width !== next.width || height !== next.height) return nearer;
  // Takes at half rate show a frame twice: nothing goes on between the two, whatever motion it has.
  if (from.light.every((v, i) => v === next.light[i])) return nearer;
  return plates.within(() => {
    const made: LightFrame = { ...nearer, ...carrier(plates, from, next, share)(from, next) };
    if (!from.depths || !next.depths) return made;
    const space = betweenSpaces(from.depths.space, next.depths.space, share);
    return { ...made, depths: { ...nearer.depths!, space } };
  });
}

/** Light of a frame, three floats a pixel, and how much of what is behind it hides, one. */
interface Seen {
  light: Float32Array;
  matte?: Float32Array;
}

/** Light is held below 1 while it is read between pixels, or a glint would ring far beyond itself. */
const MOST_HELD = 0.99999;

/** Mixes what two frames see; what it needs stays on the stack of plates. */
function carrier<S extends Seen>(
  plates: Plates,
  from: LightFrame,
  next: LightFrame,
  share: number,
): (early: S, late: S) => Pick<S, 'light' | 'matte'> {
  const { width, height } = from;
  const known = from.depths?.motion && next.depths?.motion;
  const [was, is] = known ? [from, next].map((frame) => motionOf(plates, frame)) : [];
  return (early, late) => {
    if (!was || !is) {
      const mix = (a: Float32Array, b: Float32Array): Float32Array => a.map((v, i) => v + (b[i] - v) * share);
      return { light: mix(early.light, late.light), matte: early.matte && mix(early.matte, late.matte!) };
    }
    return plates.within(() => {
      const [a, b, out] = [0, 1, 2].map(() => plates.raw(width, height));
      [early, late].forEach((seen, n) => hold(seen, [a, b][n]));
      plates.kernel.carry(a.at, b.at, out.at, width, height, was.motion.at, is.motion.at, is.depth.at, share);
      const light = new Float32Array(early.light.length);
      const matte = early.matte && new Float32Array(early.matte.length);
      const { data } = out;
      for (let o = 0, l = 0; o < data.length; o += 4) {
        for (let c = 0; c < 3; c++, l++) {
          const held = Math.min(MOST_HELD, data[o + c]);
          light[l] = held / (1 - held);
        }
        if (matte) matte[o >> 2] = data[o + 3];
      }
      return { light, matte };
    });
  };
}

/** Lays what a frame sees into a plate, coverage as its alpha. */
function hold({ light, matte }: Seen, { data }: Plate): void {
  for (let o = 0, l = 0; o < data.length; o += 4) {
    for (let c = 0; c < 3; c++, l++) data[o + c] = light[l] / (1 + light[l]);
    data[o + 3] = matte ? matte[o >> 2] : 0;
  }
}

/** Motion in pixels, and depth, as the nearest thing about each pixel has them: soft edges go along with what they are edges of. */
function motionOf(plates: Plates, { width, height, depths }: LightFrame): { motion: Floats; depth: Floats } {
  const count = width * height;
  const [motion, depth] = [plates.floats(count * 2), plates.floats(count)];
  plates.within(() => {
    const room = plates.floats(count * 3);
    depth.data.set(depths!.depth);
    const { data } = motion;
    for (let i = 0; i < data.length; i++) data[i] = depths!.motion![i] * height;
    plates.kernel.spread(motion.at, depth.at, width, height, room.at);
  });
  return { motion, depth };
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
