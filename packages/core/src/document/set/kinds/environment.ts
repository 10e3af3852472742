import { choice, number, propertiesOf, share, toggle, turn } from '../../../properties/index.ts';
import { field, fileOrNone, id, list, oneOf, order, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';

export const ROOM_KINDS = [
  'studio',
  'softboxes',
  'window',
  'tent',
  'strips',
  'dusk',
  'overcast',
  'ring',
  'drawn',
  'file',
] as const;
/** What lights the set from all round: rooms made by code, one drawn from softboxes, or a panorama file. */
export type RoomKind = (typeof ROOM_KINDS)[number];

/** A softbox drawn on the panorama. Degrees; azimuth 0 is in front (+Z), growing to the right. */
export interface DrawnBox {
  id: string;
  order?: string;
  azimuth: number;
  elevation: number;
  width: number;
  height: number;
  /** Against the room's own wall, which is 1. */
  brightness: number;
  kelvin: number;
  /** Share of it that fades out, 0..1. */
  softness: number;
}

export interface Room {
  kind: RoomKind;
  /** SHA-256 of a panorama, Radiance .hdr; empty without. */
  asset: string;
  boxes: DrawnBox[];
}

export interface EnvironmentLight {
  room: Room;
  id: 'environment';
  /** Mean luminance in cd/m2. */
  intensity: number;
  /** Degrees about the vertical. */
  rotation: number;
  /** Whether the camera sees the room behind the set. */
  seen: boolean;
}

const PROPERTIES = propertiesOf<EnvironmentLight>()({
  intensity: number('Brightness', 'cd', 0, 100000, { step: 5, usual: 150 }),
  rotation: turn('Rotation'),
  seen: toggle('Room seen'),
  'room.kind': choice('Room', ROOM_KINDS),
  'room.boxes.*.azimuth': number('Softbox azimuth', 'deg', -720, 720),
  'room.boxes.*.elevation': number('Softbox elevation', 'deg', -90, 90),
  'room.boxes.*.width': number('Softbox width', 'deg', 1, 360),
  'room.boxes.*.height': number('Softbox height', 'deg', 1, 180),
  'room.boxes.*.brightness': number('Softbox brightness', 'x', 0, 10000, { step: 0.5 }),
  'room.boxes.*.kelvin': number('Softbox colour', 'K', 1000, 25000, { step: 50 }),
  'room.boxes.*.softness': share('Softbox softness'),
});

const GROUPS = [{ title: 'Room', paths: ['intensity', 'rotation'] }];

export const environment: ThingKindOf<EnvironmentLight> = {
  role: 'environment',
  schema: shape<EnvironmentLight>({
    id: oneOf('Id', ['environment']),
    intensity: field({ ...PROPERTIES.intensity, label: 'Room light' }),
    rotation: field({ ...PROPERTIES.rotation, label: 'Room rotation' }),
    seen: field(PROPERTIES.seen),
    room: shape<Room>({
      kind: field(PROPERTIES['room.kind']),
      asset: fileOrNone('Panorama'),
      boxes: list(
        'Drawn softboxes',
        shape<DrawnBox>({
          id: id('Id'),
          order: order(),
          azimuth: field(PROPERTIES['room.boxes.*.azimuth']),
          elevation: field(PROPERTIES['room.boxes.*.elevation']),
          width: field(PROPERTIES['room.boxes.*.width']),
          height: field(PROPERTIES['room.boxes.*.height']),
          brightness: field(PROPERTIES['room.boxes.*.brightness']),
          kelvin: field(PROPERTIES['room.boxes.*.kelvin']),
          softness: field(PROPERTIES['room.boxes.*.softness']),
        }),
        60,
      ),
    }),
  }),
  properties: () => PROPERTIES,
  groups: () => GROUPS,
};

export function plainRoom(): Room {
  return { kind: 'studio', asset: '', boxes: [] };
}

export function newEnvironment(values: Partial<EnvironmentLight> = {}): EnvironmentLight {
  return { id: 'environment', intensity: 150, rotation: 0, seen: true, room: plainRoom(), ...values };
}
