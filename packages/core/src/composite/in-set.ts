import type { LayerBase } from '../document/index.ts';
import { DEGREES, type Vec3 } from '../geometry/index.ts';
import { cos, sin } from '../maths/index.ts';
import type { FrameCamera, FrameSpace } from '../scene/index.ts';
import { edgeSides } from './edge-sides.ts';
import type { DepthFrame } from './light-frame.ts';
import { fromAnchor, placeBy, sidesOf, type Homography, type Placed } from './place.ts';
import type { PixelBox } from './plate.ts';
import type { Colour } from './shapes.ts';

/** What says where in the set a layer stands. */
export type StandsInSet = Placed & Pick<LayerBase, 'thing' | 'azimuth' | 'distance' | 'lift' | 'metres' | 'facing'>;

/** A place on the way from one to another. */
export const mix = (a: Vec3, b: Vec3, t: number): Vec3 => [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t) as Vec3;
const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const scaled = (a: Vec3, by: number): Vec3 => [a[0] * by, a[1] * by, a[2] * by];
const unit = (a: Vec3): Vec3 => scaled(a, 1 / Math.max(1e-12, Math.sqrt(dot(a, a))));

/** A camera on its way from one place to another. */
export function betweenCameras(from: FrameCamera, to: FrameCamera, share: number): FrameCamera {
  const turned = (name: 'right' | 'up' | 'forward'): Vec3 => unit(mix(from[name], to[name], share));
  const number = (a: number, b: number): number => a + (b - a) * share;
  return {
    eye: mix(from.eye, to.eye, share),
    ...{ right: turned('right'), up: turned('up'), forward: turned('forward') },
    focal: number(from.focal, to.focal),
    shift: [number(from.shift[0], to.shift[0]), number(from.shift[1], to.shift[1])],
  };
}

/** The camera so far through the time that the shutter is open. */
const cameraAt = ({ camera, closing }: FrameSpace, share: number): FrameCamera =>
  closing && share !== 0 ? betweenCameras(camera, closing, share) : camera;

/** A place of the world as the camera sees it: right, up and away in metres. */
function seenFrom({ eye, right, up, forward }: FrameCamera, at: Vec3): Vec3 {
  const way: Vec3 = [at[0] - eye[0], at[1] - eye[1], at[2] - eye[2]];
  return [dot(way, right), dot(way, up), dot(way, forward)];
}

/** Where the middle of a layer stands, metres. A thing that is not there stands in the middle of the floor. */
export function standsAt({ thing, azimuth, distance, lift }: StandsInSet, space: FrameSpace, share = 0): Vec3 {
  const found = thing ? space.things[thing] : undefined;
  const base: Vec3 = found ? (found.close ? mix(found.at, found.close, share) : found.at) : [0, 0, 0];
  return [base[0] + distance * sin(azimuth * DEGREES), base[1] + lift, base[2] + distance * cos(azimuth * DEGREES)];
}

/** A layer's own right, up and face in the world: the camera's, or the world's. */
export function axesOf(facing: boolean, camera: FrameCamera): readonly [Vec3, Vec3, Vec3] {
  if (facing) return [camera.right, camera.up, scaled(camera.forward, -1)];
  return [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
}

/** Where in the picture a place of the world is, shares of its height; null behind the camera. */
export function spotOf(at: Vec3, { camera }: FrameSpace): [number, number] | null {
  const [x, y, z] = seenFrom(camera, at);
  const { focal, shift } = camera;
  return z > 1e-4 ? [(focal * x) / z - shift[0], (focal * y) / z - shift[1]] : null;
}

/**
 * A layer that stands in the set as the shot's camera sees it: from its lengths to the picture's. The third row gives metres away along
 * the camera's axis. @param share 0 as the shutter opens, 1 as it closes.
 */
export function cardInSet(layer: StandsInSet, space: FrameSpace, share = 0): Homography {
  const camera = cameraAt(space, share);
  const { metres, x, y, facing, anchorX = 0, anchorY = 0 } = layer;
  const axes = axesOf(facing, camera);
  const inWorld = (v: Vec3): Vec3 =>
    [0, 1, 2].map((i) => (v[0] * axes[0][i] + v[1] * axes[1][i] + v[2] * axes[2][i]) * metres) as Vec3;
  const middle = standsAt(layer, space, share);
  const moved = inWorld([x, y, 0]);
  const origin: Vec3 = [middle[0] + moved[0], middle[1] + moved[1], middle[2] + moved[2]];
  const turned = (v: Vec3): Vec3 => {
    const w = inWorld(v);
    return [dot(w, camera.right), dot(w, camera.up), dot(w, camera.forward)];
  };
  const [u, v] = sidesOf(layer).map(turned);
  const o = seenFrom(camera, origin);
  const { focal, shift } = camera;
  const row = (axis: 0 | 1): [number, number, number] =>
    [u, v, o].map((way) => focal * way[axis] - shift[axis] * way[2]) as [number, number, number];
  const card: Homography = [...row(0), ...row(1), u[2], v[2], o[2]];
  return fromAnchor(card, anchorX, anchorY);
}

/** Standard deviation of a card's defocus in picture heights, for a thin lens: its circle of confusion as a Gaussian of the same variance. */
export function defocusOf(layer: StandsInSet, space: FrameSpace): number {
  const [, , z] = seenFrom(space.camera, standsAt(layer, space));
  if (!(space.aperture > 0) || z <= 1e-3) return 0;
  return (space.aperture * space.camera.focal * Math.abs(1 / Math.max(1e-3, space.focus) - 1 / z)) / 2;
}

/**
 * How much of a card in the set what is nearer hides, 0..1 a pixel of a take's frame. Before a product it is seen; behind one as much as
 * is seen between what covers a pixel and through glass; other surfaces hide it where they are nearer, softly within a pixel.
 * @param card from its lengths to the frame's picture, as cardInSet() gives it. @param within pixels that are asked for, others are 0.
 * @param beyond takes how much of the card lies behind products, 0..1 a pixel: their glass colours it.
 */
export function hiddenInSet(
  frame: DepthFrame,
  card: Homography,
  within: PixelBox = { left: 0, right: frame.width, top: 0, bottom: frame.height },
  beyond: Float32Array | null = null,
): Float32Array {
  const { width, height, matte, depths } = frame;
  const out = new Float32Array(width * height);
  if (!depths) return out;
  const { depth } = depths;
  const sides = edgeSides(frame);
  const { g, h, i } = placeBy(card, width, height);
  const { focal, shift } = depths.space.camera;
  for (let y = within.top; y < within.bottom; y++)
    for (let x = within.left, at = y * width + x; x < within.right; x++, at++) {
      const w = g * (x + 0.5) + h * (y + 0.5) + i;
      if (w <= 0) continue;
      const [sx, sy] = [(x + 0.5 - width / 2) / height + shift[0], (height / 2 - y - 0.5) / height + shift[1]];
      // Metres along the ray, as depths are.
      const long = Math.sqrt(1 + (sx * sx + sy * sy) / (focal * focal));
      const far = long / w;
      // What the card's own depth changes by from a pixel to the next.
      const slant = far * (Math.abs(g) + Math.abs(h)) * (far / long);
      const covered = matte[at];
      if (covered <= 0) {
        out[at] = behind(far, depth[at], slopeAt(depth, at, width) + slant);
        continue;
      }
      const edge = sides.isEdge(at);
      const front = edge ? sides.front(at) : depth[at];
      const back = edge ? sides.back(at) : 0;
      const product = behind(far, front, slant + 1e-4 * far);
      const rest = back > 0 ? behind(far, back, slant + 1e-4 * far) : 0;
      out[at] = covered * product + (1 - covered) * rest;
      if (beyond) beyond[at] = product;
    }
  return out;
}

/** How much of what stands at a place, metres away along its ray, is hidden by what is nearer in a frame. */
export function hiddenAt(frame: DepthFrame, spot: readonly [number, number], away: number): number {
  const { matte, depths } = frame;
  const at = pixelAt(frame, spot);
  if (!depths || at < 0) return 0;
  const nearer = depths.depth[at] > 0 && depths.depth[at] < away;
  return nearer ? (matte[at] > 0 ? matte[at] : 1) : 0;
}

/** How much of the red, green and blue of it is seen: what is behind glass is coloured by it. */
export function seenPast(frame: DepthFrame, spot: readonly [number, number], away: number): Colour {
  const open = 1 - hiddenAt(frame, spot, away);
  const tint = frame.depths?.tint;
  if (!tint || open === 0 || open === 1) return [open, open, open];
  const at = pixelAt(frame, spot) * 3;
  return [open * tint[at], open * tint[at + 1], open * tint[at + 2]];
}

/** The number of the pixel at a place of the picture, shares of its height; -1 beyond its edges. */
function pixelAt({ width, height }: DepthFrame, [sx, sy]: readonly [number, number]): number {
  const [x, y] = [Math.floor(width / 2 + sx * height), Math.floor(height / 2 - sy * height)];
  return x < 0 || y < 0 || x >= width || y >= height ? -1 : y * width + x;
}

/** How much of what is so far away something at a depth hides. */
function behind(far: number, depth: number, soft: number): number {
  if (!(depth > 0)) return 0;
  return Math.min(1, Math.max(0, (far - depth) / Math.max(1e-5, soft) + 0.5));
}

/** How much a surface's depth changes over a pixel, its edges left out. */
const slopeAt = (depth: Float32Array, at: number, width: number): number =>
  changeBy(depth, at, 1) + changeBy(depth, at, width);

function changeBy(depth: Float32Array, at: number, step: number): number {
  const here = depth[at];
  const after = at + step < depth.length ? depth[at + step] : here;
  const before = at >= step ? depth[at - step] : here;
  return Math.min(Math.abs(after - here), Math.abs(here - before));
}
