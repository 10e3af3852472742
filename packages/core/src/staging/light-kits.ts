import { cos, sin } from '../maths/index.ts';
import {
  newCard,
  noGobo,
  plainLight,
  type Backdrop,
  type PlacedLights,
  type Point,
  type SetLight,
} from '../document/index.ts';
import { meterLight, placeLight } from '../scene/index.ts';

/** What a kit is set up round. Metres, degrees. */
export interface Subject {
  /** Middle of the product and half of its diagonal. */
  centre: Point;
  radius: number;
  /** Direction of the camera round the product: 0 from +Z, growing towards +X. */
  cameraTurn: number;
}

export const LIGHT_KITS = ['bright catalogue', 'dark rim', 'side strip', 'window', 'top glow', 'two-tone'] as const;
export type LightKit = (typeof LIGHT_KITS)[number];

/** Illuminance of a key at the product that a white label needs at exposure 0, lux. */
const KEY_LUX = 3200;
/** Half diagonal of the product that sizes below are given for. */
const STANDARD = 0.07;

/** A light of a kit: sizes and distance for the standard product, power as a share of the key's illuminance. */
interface Part extends Partial<Omit<SetLight, 'id' | 'lumens'>> {
  name: string;
  role: SetLight['role'];
  /** Degrees from the camera round the product, and above the floor. */
  turn: number;
  up: number;
  distance: number;
  share: number;
}
interface CardPart {
  name: string;
  colour: '#060606' | '#F4F2EE';
  turn: number;
  up: number;
  distance: number;
  width: number;
  height: number;
}

const part = (
  name: string,
  role: SetLight['role'],
  turn: number,
  up: number,
  distance: number,
  values: Omit<Part, 'name' | 'role' | 'turn' | 'up' | 'distance'>,
): Part => ({ name, role, turn, up, distance, ...values });

const PARTS: Record<LightKit, { lights: Part[]; cards: CardPart[]; room: number }> = {
  'bright catalogue': {
    room: 110,
    lights: [
      part('Key', 'key', -42, 42, 0.8, { width: 0.7, height: 0.7, share: 0.62, kelvin: 6300 }),
      part('Fill', 'fill', 52, 30, 0.9, { width: 0.8, height: 0.8, share: 0.26, kelvin: 6500 }),
      part('Top', 'top', 180, 74, 0.8, { width: 0.7, height: 0.5, share: 0.42, kelvin: 6500 }),
    ],
    cards: [{ name: 'Bounce', colour: '#F4F2EE', turn: 60, up: 8, distance: 0.28, width: 0.3, height: 0.2 }],
  },
  'dark rim': {
    room: 5,
    lights: [
      part('Rim left', 'rim', -128, 20, 0.5, { width: 0.1, height: 0.6, share: 2.6, kelvin: 6200, gridAngle: 30 }),
      part('Rim right', 'rim', 128, 20, 0.5, { width: 0.1, height: 0.6, share: 2.6, kelvin: 5400, gridAngle: 30 }),
      part('Fill', 'fill', -24, 46, 0.9, { width: 0.6, height: 0.6, share: 0.11, kelvin: 6000 }),
    ],
    cards: [
      { name: 'Flag left', colour: '#060606', turn: -80, up: 20, distance: 0.24, width: 0.2, height: 0.34 },
      { name: 'Flag right', colour: '#060606', turn: 80, up: 20, distance: 0.24, width: 0.2, height: 0.34 },
    ],
  },
  'side strip': {
    room: 22,
    lights: [
      part('Strip', 'key', -64, 16, 0.5, { width: 0.14, height: 0.8, share: 1.1, kelvin: 5900, gradient: 'down' }),
      part('Rim', 'rim', 138, 28, 0.6, { width: 0.1, height: 0.5, share: 0.9, kelvin: 5400, gridAngle: 40 }),
    ],
    cards: [{ name: 'Bounce', colour: '#F4F2EE', turn: 70, up: 12, distance: 0.2, width: 0.24, height: 0.3 }],
  },
  window: {
    room: 42,
    lights: [
      part('Window', 'key', -48, 30, 1.3, {
        ...{ width: 0.05, height: 0.05, share: 1.25, kelvin: 5200, shape: 'spot', beamAngle: 44, softness: 0.25 },
        gobo: { ...noGobo(), pattern: 'window', distance: 0.55, width: 0.4, height: 0.5, repeat: 2 },
      }),
      part('Sky', 'fill', 40, 50, 1, { width: 0.9, height: 0.9, share: 0.3, kelvin: 7200 }),
    ],
    cards: [],
  },
  'top glow': {
    room: 20,
    lights: [
      part('Top', 'key', 150, 76, 0.65, {
        ...{ width: 0.45, height: 0.45, share: 1.3, kelvin: 5400, shape: 'disc', gridAngle: 60, gradient: 'round' },
      }),
      part('Low fill', 'fill', 12, 14, 0.9, { width: 0.7, height: 0.3, share: 0.36, kelvin: 5900 }),
      part('Glow', 'rim', 178, 34, 0.55, { width: 0.4, height: 0.2, share: 0.7, kelvin: 5000, gridAngle: 48 }),
    ],
    cards: [{ name: 'Bounce', colour: '#F4F2EE', turn: 20, up: 4, distance: 0.26, width: 0.34, height: 0.12 }],
  },
  'two-tone': {
    room: 10,
    lights: [
      part('Warm', 'key', -72, 24, 0.65, { width: 0.4, height: 0.6, share: 0.85, kelvin: 2800 }),
      part('Cool', 'rim', 60, 24, 0.6, { width: 0.3, height: 0.6, share: 0.75, kelvin: 15000 }),
      part('Fill', 'fill', 10, 55, 1, { width: 0.6, height: 0.6, share: 0.1, kelvin: 6500 }),
    ],
    cards: [],
  },
};

/** The ground and room that each kit is made for. */
const BACKDROPS: Record<LightKit, Backdrop> = {
  'bright catalogue': { colour: '#C6C4C0', roughness: 0.85, mirror: 0, room: 'tent' },
  'dark rim': { colour: '#131216', roughness: 0.6, mirror: 0.12, room: 'studio' },
  'side strip': { colour: '#4A4650', roughness: 0.55, mirror: 0.08, room: 'studio' },
  window: { colour: '#A89D90', roughness: 0.8, mirror: 0, room: 'studio' },
  'top glow': { colour: '#37333D', roughness: 0.4, mirror: 0.25, room: 'studio' },
  'two-tone': { colour: '#3A3742', roughness: 0.5, mirror: 0.12, room: 'studio' },
};

/**
 * Sets a kit up round a product as the camera sees it, grown with the product, each light's lumens worked out from the
 * illuminance it is to give at the middle of the product. Ids begin with `prefix`.
 */
export function placeKit(kit: LightKit, subject: Subject, prefix: string): PlacedLights {
  const grow = Math.max(0.2, subject.radius / STANDARD);
  const { lights, cards, room } = PARTS[kit];
  const at = ({ turn, up, distance }: { turn: number; up: number; distance: number }): Point => {
    const azimuth = ((subject.cameraTurn + turn) * Math.PI) / 180;
    const elevation = (up * Math.PI) / 180;
    const level = cos(elevation) * distance * grow;
    const [x, y, z] = subject.centre;
    // Above the floor, however low the product is.
    const height = Math.max(0.02, y + sin(elevation) * distance * grow);
    return [x + sin(azimuth) * level, height, z + cos(azimuth) * level];
  };
  return {
    room,
    backdrop: { ...BACKDROPS[kit] },
    lights: lights.map((part, i) => {
      const { turn, up, distance, share, ...values } = part;
      const gobo = values.gobo ?? noGobo();
      const light: SetLight = {
        ...plainLight(),
        ...{ shape: 'softbox', kelvin: 5500, ...values },
        ...{
          id: `${prefix}-${i}`,
          position: at({ turn, up, distance }),
          aim: [...subject.centre] as Point,
          lumens: 1000,
        },
        ...{ width: (values.width ?? 0.5) * grow, height: (values.height ?? 0.5) * grow },
        gobo: { ...gobo, distance: gobo.distance * grow, width: gobo.width * grow, height: gobo.height * grow },
      };
      const lux = meterLight(placeLight(light), subject.centre);
      return { ...light, lumens: Number(((1000 * share * KEY_LUX) / lux).toPrecision(3)) };
    }),
    cards: cards.map(({ name, colour, width, height, ...where }, i) =>
      newCard(`${prefix}-card-${i}`, name, colour, {
        ...{ width: width * grow, height: height * grow, position: at(where), aim: [...subject.centre] },
      }),
    ),
  };
}
