import type { TakeComposite } from '../document/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { betweenCameras, mix } from './in-set.ts';
import type { FrameDepths, LightFrame, LightParts } from './light-frame.ts';
import type { Floats, Plates } from './plate.ts';

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
  const known = from.depths?.motion && next.depths?.motion;
  const [was, is] = known ? [from, next].map((frame) => motionOf(plates, frame)) : [];
  return (early, late) => {
    const channels = early.length / count;
    if (!was || !is) return early.map((v, i) => v + (late[i] - v) * share);
    return plates.within(() => {
      const [a, b, out] = [0, 1, 2].map(() => plates.raw(width, height));
      const { first, lay, read } = channels === 1 ? COVERAGE : LIGHT;
      [early, late].forEach((plane, n) => {
        const { data } = [a, b][n];
        data.fill(0);
        for (let i = 0; i < count; i++)
          for (let c = 0; c < channels; c++) data[i * 4 + first + c] = lay(plane[i * channels + c]);
      });
      plates.kernel.carry(a.at, b.at, out.at, width, height, was.motion.at, is.motion.at, is.depth.at, share);
      const made = new Float32Array(early.length);
      const { data } = out;
      for (let i = 0; i < count; i++)
        for (let c = 0; c < channels; c++) made[i * channels + c] = read(data[i * 4 + first + c]);
      return made;
    });
  };
}

/** How numbers of a plane lie in a plate while they are read between pixels. */
interface Laid {
  first: number;
  lay: (v: number) => number;
  read: (v: number) => number;
}
/** As its alpha, which the kernel keeps within 1. */
const COVERAGE: Laid = { first: 3, lay: (v) => v, read: (v) => v };
/** Held below 1, or a glint would ring far beyond itself. */
const LIGHT: Laid = { first: 0, lay: (v) => v / (1 + v), read: (v) => Math.min(v, MOST) / (1 - Math.min(v, MOST)) };
const MOST = 0.99999;

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
