import { cos, sin } from '../maths/index.ts';
import { kelvinToRgb } from './colour-temperature.ts';
import { studioPanorama, type Panorama } from './environment.ts';

/** A soft patch of light on a panorama: degrees, azimuth 0 in front (+Z) and growing to the right. */
export interface PanoramaBox {
  azimuth: number;
  elevation: number;
  width: number;
  height: number;
  brightness: number;
  kelvin: number;
  softness: number;
}

/** Luminance of floor, horizon and zenith, and what shines in the room. */
interface RoomPlan {
  floor: number;
  wall: number;
  top: number;
  kelvin: number;
  boxes: PanoramaBox[];
}

const box = (
  azimuth: number,
  elevation: number,
  width: number,
  height: number,
  brightness: number,
  kelvin = 5600,
  softness = 0.2,
): PanoramaBox => ({ azimuth, elevation, width, height, brightness, kelvin, softness });

/** Rooms made by code besides the plain studio. */
const ROOMS: Record<'softboxes' | 'window' | 'tent' | 'strips' | 'dusk' | 'overcast' | 'ring', RoomPlan> = {
  softboxes: {
    ...{ floor: 0.08, wall: 0.14, top: 0.2, kelvin: 5600 },
    boxes: [box(-60, 30, 50, 50, 14), box(70, 20, 60, 40, 6), box(180, 55, 70, 30, 8)],
  },
  window: {
    ...{ floor: 0.2, wall: 0.4, top: 0.35, kelvin: 5000 },
    boxes: [
      box(-82, 22, 17, 26, 30, 6500, 0.06),
      box(-62, 22, 17, 26, 30, 6500, 0.06),
      box(-82, -8, 17, 26, 24, 6300, 0.06),
      box(-62, -8, 17, 26, 24, 6300, 0.06),
    ],
  },
  tent: { ...{ floor: 0.9, wall: 1, top: 1.2, kelvin: 5600 }, boxes: [box(0, 90, 360, 60, 1.6, 5600, 0.9)] },
  strips: {
    ...{ floor: 0.02, wall: 0.03, top: 0.03, kelvin: 5600 },
    boxes: [
      box(-100, 10, 7, 90, 40, 5600, 0.1),
      box(100, 10, 7, 90, 40, 5600, 0.1),
      box(180, 65, 60, 6, 24, 6000, 0.2),
    ],
  },
  dusk: {
    ...{ floor: 0.12, wall: 0.5, top: 0.35, kelvin: 9500 },
    boxes: [box(-115, 4, 60, 16, 14, 2500, 0.8), box(-115, 3, 9, 7, 90, 2100, 0.5)],
  },
  overcast: { ...{ floor: 0.25, wall: 0.75, top: 1.5, kelvin: 7000 }, boxes: [box(40, 55, 90, 60, 1.4, 6500, 1)] },
  ring: {
    ...{ floor: 0.06, wall: 0.1, top: 0.1, kelvin: 5600 },
    boxes: Array.from({ length: 12 }, (_, i) => box(i * 30, 38, 16, 7, 26, 5400, 0.25)),
  },
};
export type BuiltRoom = keyof typeof ROOMS;

/** An empty room to draw softboxes in: its walls are 1. */
const BARE: RoomPlan = { floor: 0.5, wall: 1, top: 1, kelvin: 5600, boxes: [] };

/** A room made by code, mean luminance 1. @param width of the panorama in pixels; it is half as high. */
export function builtRoom(kind: BuiltRoom, width = 256): Panorama {
  return drawn(ROOMS[kind], width);
}

/** A bare room with softboxes drawn in it, mean luminance 1. */
export function drawnRoom(boxes: readonly PanoramaBox[], width = 256): Panorama {
  return drawn({ ...BARE, boxes: [...boxes] }, width);
}

/**
 * The panorama of a room. `file` is what was read from its file; without it the plain studio stands in.
 * @param room kind, and the softboxes of a drawn room.
 */
export function panoramaOf(room: { kind: string; boxes: readonly PanoramaBox[] }, file?: Panorama): Panorama {
  if (room.kind === 'drawn') return drawnRoom(room.boxes);
  if (room.kind === 'file' && file) return file;
  return room.kind in ROOMS ? builtRoom(room.kind as BuiltRoom) : studioPanorama();
}

function drawn({ floor, wall, top, kelvin, boxes }: RoomPlan, width: number): Panorama {
  const height = width / 2;
  const data = new Float32Array(width * height * 3);
  const base = kelvinToRgb(kelvin);
  const lamps = boxes.map((b) => ({ ...b, rgb: kelvinToRgb(b.kelvin).map((c) => c * b.brightness) }));
  for (let row = 0; row < height; row++) {
    const elevation = 90 - ((row + 0.5) / height) * 180;
    const up = sin((elevation * Math.PI) / 180);
    const ground = up < 0 ? floor + (wall - floor) * smooth(-0.35, 0, up) : wall + (top - wall) * smooth(0, 0.9, up);
    for (let column = 0; column < width; column++) {
      const azimuth = azimuthOf((column + 0.5) / width);
      const out = base.map((c) => c * ground);
      for (const lamp of lamps) {
        const cover = coverage(lamp, azimuth, elevation);
        if (cover > 0) for (let c = 0; c < 3; c++) out[c] = out[c] * (1 - cover) + lamp.rgb[c] * cover;
      }
      data.set(out, (row * width + column) * 3);
    }
  }
  return toMeanOne({ width, height, data });
}

/** Degrees round from +Z towards +X of a place across the panorama, 0..1: its middle looks to -Z, its right to +X. */
export function azimuthOf(across: number): number {
  return signed((1 - across) * 360);
}
/** Where across the panorama an azimuth lies. */
export function acrossOf(azimuth: number): number {
  return (((1 - azimuth / 360) % 1) + 1) % 1;
}

function signed(degrees: number): number {
  const d = ((degrees % 360) + 360) % 360;
  return d > 180 ? d - 360 : d;
}

/** How much of a softbox covers a direction. */
function coverage(b: PanoramaBox, azimuth: number, elevation: number): number {
  let across = Math.abs(signed(azimuth - b.azimuth));
  // Near the poles a degree round is a short way.
  across *= Math.max(0.15, cos((elevation * Math.PI) / 180));
  const edge = (distance: number, half: number): number => {
    const fade = Math.max(0.5, half * b.softness);
    return 1 - smooth(half - fade, half + fade * 0.2, distance);
  };
  return edge(across, b.width / 2) * edge(Math.abs(elevation - b.elevation), b.height / 2);
}

/** Scales a panorama to a mean luminance of 1 over the sphere, so that a room's intensity reads in cd/m2. */
export function toMeanOne(panorama: Panorama): Panorama {
  const { width, height, data } = panorama;
  let [sum, weight] = [0, 0];
  for (let row = 0; row < height; row++) {
    const size = sin(((row + 0.5) / height) * Math.PI);
    for (let i = row * width * 3; i < (row + 1) * width * 3; i += 3) {
      sum += size * (0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2]);
      weight += size;
    }
  }
  const scale = sum > 0 ? weight / sum : 1;
  return { width, height, data: data.map((v) => v * scale) };
}

function smooth(a: number, b: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - a) / (b - a || 1e-9)));
  return t * t * (3 - 2 * t);
}
