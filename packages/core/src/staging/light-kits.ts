import { cos, sin } from '../maths/index.ts';
import { newCard, noGobo, plainLight, type PlacedLights, type Point, type SetLight } from '../document/index.ts';
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

const PARTS: Record<LightKit, { lights: Part[]; cards: CardPart[]; room: number }> = {
  'bright catalogue': {
    room: 320,
    lights: [
      { name: 'Key', role: 'key', turn: -45, up: 40, distance: 0.8, width: 0.7, height: 0.7, share: 1, kelvin: 5600 },
      {
        name: 'Fill',
        role: 'fill',
        turn: 50,
        up: 30,
        distance: 0.9,
        width: 0.8,
        height: 0.8,
        share: 0.6,
        kelvin: 5600,
      },
      { name: 'Top', role: 'top', turn: 180, up: 78, distance: 0.8, width: 0.7, height: 0.5, share: 0.7, kelvin: 5600 },
    ],
    cards: [{ name: 'Bounce', colour: '#F4F2EE', turn: 60, up: 8, distance: 0.28, width: 0.3, height: 0.2 }],
  },
  'dark rim': {
    room: 6,
    lights: [
      {
        name: 'Rim left',
        role: 'rim',
        turn: -145,
        up: 22,
        distance: 0.6,
        width: 0.12,
        height: 0.6,
        share: 1.6,
        kelvin: 5900,
        gridAngle: 50,
      },
      {
        name: 'Rim right',
        role: 'rim',
        turn: 145,
        up: 22,
        distance: 0.6,
        width: 0.12,
        height: 0.6,
        share: 1.6,
        kelvin: 5200,
        gridAngle: 50,
      },
      {
        name: 'Fill',
        role: 'fill',
        turn: -20,
        up: 50,
        distance: 0.9,
        width: 0.6,
        height: 0.6,
        share: 0.09,
        kelvin: 5600,
      },
    ],
    cards: [
      { name: 'Flag left', colour: '#060606', turn: -80, up: 20, distance: 0.24, width: 0.2, height: 0.34 },
      { name: 'Flag right', colour: '#060606', turn: 80, up: 20, distance: 0.24, width: 0.2, height: 0.34 },
    ],
  },
  'side strip': {
    room: 24,
    lights: [
      {
        name: 'Strip',
        role: 'key',
        turn: -88,
        up: 18,
        distance: 0.5,
        width: 0.14,
        height: 0.8,
        share: 1,
        kelvin: 5400,
        gradient: 'down',
      },
      { name: 'Rim', role: 'rim', turn: 140, up: 30, distance: 0.7, width: 0.1, height: 0.5, share: 0.5, kelvin: 5000 },
    ],
    cards: [{ name: 'Bounce', colour: '#F4F2EE', turn: 85, up: 12, distance: 0.22, width: 0.2, height: 0.26 }],
  },
  window: {
    room: 30,
    lights: [
      {
        ...{
          name: 'Window',
          role: 'key',
          turn: -62,
          up: 34,
          distance: 1.3,
          width: 0.05,
          height: 0.05,
          share: 1,
          kelvin: 4700,
        },
        ...{ shape: 'spot', beamAngle: 44, softness: 0.25 },
        gobo: { ...noGobo(), pattern: 'window', distance: 0.55, width: 0.4, height: 0.5, repeat: 2 },
      },
      { name: 'Sky', role: 'fill', turn: 40, up: 50, distance: 1, width: 0.9, height: 0.9, share: 0.16, kelvin: 7200 },
    ],
    cards: [],
  },
  'top glow': {
    room: 16,
    lights: [
      {
        name: 'Top',
        role: 'key',
        turn: 180,
        up: 82,
        distance: 0.65,
        width: 0.45,
        height: 0.45,
        share: 1,
        kelvin: 5000,
        shape: 'disc',
        gridAngle: 60,
        gradient: 'round',
      },
      {
        name: 'Low fill',
        role: 'fill',
        turn: 0,
        up: 8,
        distance: 0.9,
        width: 0.7,
        height: 0.3,
        share: 0.14,
        kelvin: 5600,
      },
    ],
    cards: [{ name: 'Bounce', colour: '#F4F2EE', turn: 20, up: 4, distance: 0.26, width: 0.34, height: 0.12 }],
  },
  'two-tone': {
    room: 10,
    lights: [
      { name: 'Warm', role: 'key', turn: -75, up: 25, distance: 0.7, width: 0.4, height: 0.5, share: 1, kelvin: 2700 },
      {
        name: 'Cool',
        role: 'rim',
        turn: 105,
        up: 28,
        distance: 0.7,
        width: 0.3,
        height: 0.6,
        share: 0.9,
        kelvin: 11000,
      },
      { name: 'Fill', role: 'fill', turn: 10, up: 55, distance: 1, width: 0.6, height: 0.6, share: 0.12, kelvin: 5600 },
    ],
    cards: [],
  },
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
