import { atan2, cos, hypot, log2, sin } from '../maths/index.ts';
import { frameBounds } from '../camera/index.ts';
import {
  newSet,
  newSweep,
  MOST_LUMENS,
  type Point,
  type SetCamera,
  type SetCommand,
  type SetDocument,
} from '../document/index.ts';
import { boundsCentre, boundsSize, type Bounds } from '../geometry/index.ts';
import { exposureScale } from '../light/index.ts';
import { greyShownAs } from '../picture/index.ts';
import { meterLight, placeLight, surfaceTraits } from '../scene/index.ts';
import { toPolar } from './polar.ts';

/** Half of the diagonal of the product that a new set is made for, metres. */
export const USUAL_RADIUS = 0.09;
/** How much of the picture stays free round the product, as a share of the lens's angle. */
const AIR = 0.2;
/** Reflectance of white paper, and what it is to come out as: a share of display white. */
const PAPER = 0.9;
const WHITE = 0.85;
/** Mean reflectance below which a product is dark, and above which it is pale. */
const DARK = 0.1;
const PALE = 0.55;
/** Grounds that products stand out from, sRGB: the usual one, and those for dark and pale ones. */
const GROUND = newSweep().colour;
const GROUND_FOR_DARK = '#A39A8E';
const GROUND_FOR_PALE = '#6E675F';
const GROUNDS = [GROUND, GROUND_FOR_DARK, GROUND_FOR_PALE];
const STEADY_F = 8;
/** More than this no light gives, lumens; and no set grows more than this. */
const STRONGEST = 0.9 * MOST_LUMENS;
const LARGEST_GROWTH = 30;

/** The product that a set is fitted to. */
export interface FirstProduct {
  /** World box of the product as it stands, metres. */
  box: Bounds;
  /** Mean reflectance of what is seen of it, 0..1. */
  tone: number;
  /** The camera that is to show it; its direction and lens stay. */
  camera: string;
  /** Width of the picture by its height. */
  aspect: number;
}

/** A set grown (or shrunk) about the middle of its floor: lights give the same illuminance there as before. */
export function growSet(set: SetDocument, grow: number): void {
  const grown = (point: Point): Point => point.map((v) => v * grow) as Point;
  for (const light of set.lights) {
    light.position = grown(light.position);
    light.aim = grown(light.aim);
    light.width *= grow;
    light.height *= grow;
    light.lumens *= grow * grow;
    for (const side of ['distance', 'width', 'height'] as const) light.gobo[side] *= grow;
  }
  const GROWN = ['width', 'depth', 'height', 'radius', 'bevel'] as const;
  for (const surface of set.surfaces) {
    const sizes = surface as unknown as Record<(typeof GROWN)[number], number>;
    for (const side of GROWN) if (typeof sizes[side] === 'number') sizes[side] *= grow;
    if ('position' in surface) surface.position = grown(surface.position);
    if ('aim' in surface) surface.aim = grown(surface.aim);
  }
}

/**
 * Illuminance in lux on a card at a place that faces a direction, from lights alone: nothing is in their way.
 * @param towards unit vector.
 */
function illuminance({ lights }: SetDocument, at: Point, towards: Point): number {
  return lights
    .filter((light) => light.on)
    .reduce((sum, light) => {
      const to = light.position.map((v, a) => v - at[a]);
      const cosine = to.reduce((n, v, a) => n + v * towards[a], 0) / (hypot(...to) || 1);
      return sum + meterLight(placeLight(light), at) * Math.max(0, cosine);
    }, 0);
}

/** Stands the camera where all of a box is in the picture with air round it, looking from where it looked. */
function frame(camera: SetCamera, { box, aspect }: FirstProduct): void {
  const { azimuth, elevation } = toPolar(camera.position.map((v, a) => v - camera.aim[a]));
  const placed = frameBounds(box, { ...camera, aspect }, azimuth, Math.max(4, elevation), AIR);
  Object.assign(camera, placed);
  // A close-up of a tiny thing is stopped down: all of it is to be sharp.
  const [far, near] = [hypot(...placed.position.map((v, a) => v - placed.aim[a])), hypot(...boundsSize(box)) / 2];
  const stops = (camera.focalLength / 1000 / far) * (near / far) * 400;
  camera.fNumber = Number(Math.min(128, Math.max(camera.fNumber, STEADY_F * stops)).toFixed(1));
  camera.focus = 0;
}

/**
 * Half of the diagonal of the product that a set is made for, metres: its lights stand as far off as a new set's do, in
 * products. So a set that was fitted before does not grow twice.
 */
function radiusOf({ lights }: SetDocument): number {
  const meanDistance = (all: SetDocument['lights']): number =>
    all.reduce((sum, { position }) => sum + hypot(...position), 0) / all.length;
  const now = meanDistance(lights);
  return now > 0 ? (USUAL_RADIUS * now) / meanDistance(newSet('').lights) : USUAL_RADIUS;
}

/**
 * Fits a set to its first product: it is framed whole with air round it, lights, cards and sweep have its size,
 * the ground lets it stand out, and a white card before it comes out as white.
 */
export function fitSet(first: FirstProduct, label = 'Fit the set to the product'): SetCommand {
  return {
    label,
    run: (set) => {
      const camera = set.cameras.find((c) => c.id === first.camera) ?? set.cameras[0];
      const size = boundsSize(first.box);
      const radius = Math.min(LARGEST_GROWTH * USUAL_RADIUS, Math.max(1e-3 * USUAL_RADIUS, hypot(...size) / 2));
      growSet(set, radius / radiusOf(set));
      frame(camera, first);
      const ground = first.tone < DARK ? GROUND_FOR_DARK : first.tone > PALE ? GROUND_FOR_PALE : GROUND;
      const backdrop = set.surfaces.find((surface) => surfaceTraits(surface).backdrop);
      // A ground that somebody chose stays; one that is right already was fitted to such a product before.
      if (backdrop && backdrop.colour !== ground && GROUNDS.includes(backdrop.colour)) {
        backdrop.colour = ground;
        if (first.tone < DARK) for (const light of set.lights) if (light.role === 'rim') light.lumens *= 1.8;
      }
      whiten(set, camera, first.box);
    },
  };
}

/** Gives the lights the power at which white paper before the product comes out as white. */
function whiten(set: SetDocument, camera: SetCamera, box: Bounds): void {
  const centre = boundsCentre(box);
  const turn = atan2(camera.position[0] - centre[0], camera.position[2] - centre[2]);
  const towards: Point = [sin(turn), 0, cos(turn)];
  const reach = hypot(...boundsSize(box)) / 2;
  const at = centre.map((v, a) => v + towards[a] * reach) as Point;
  const wanted = ((greyShownAs(WHITE, set.view) / exposureScale(camera.exposure)) * Math.PI) / PAPER;
  const given = illuminance(set, at, towards);
  // The room lights the card from all sides; the ground throws a part of the lights back.
  const rest = wanted - Math.PI * set.environment.intensity;
  if (given <= 0 || rest <= 0) return;
  const powers = set.lights.map((light) => (light.lumens * rest) / given);
  // What no lamp can give for so large a product is made up by the exposure; room and lights stay as they are to each other.
  const over = Math.max(1, Math.max(...powers) / STRONGEST);
  set.lights.forEach((light, i) => (light.lumens = Number((powers[i] / over).toPrecision(4))));
  set.environment.intensity /= over;
  camera.exposure += log2(over);
}
