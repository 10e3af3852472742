import type { CardSurface, LightShape, RoomKind, SetLight } from '../kinds/index.ts';
import type { SetDocument } from '../types.ts';
import type { SetCommand } from './things.ts';

const edit = (id: string, label: string, run: (light: SetLight) => void): SetCommand => ({
  label,
  run: (set) => {
    const light = set.lights.find((l) => l.id === id);
    if (light) run(light);
  },
});

/** Gives a light another shape. A sun's power is lux and its angle small; other shapes come back to what a lamp has. */
export function chooseLightShape(id: string, shape: LightShape): SetCommand {
  return edit(id, 'Change shape of light', (light) => {
    if (shape === 'sun') Object.assign(light, { lumens: 20000, beamAngle: 0.53 });
    else if (light.shape === 'sun') Object.assign(light, { lumens: 2000, beamAngle: 40 });
    if (shape === 'spot' && light.width > 0.1) light.width = 0.04;
    light.shape = shape;
  });
}

/** Links a thing to a light, or takes the link away. */
export function toggleLink(id: string, thing: string): SetCommand {
  return edit(id, 'Link light', ({ lightLinking }) => {
    const at = lightLinking.things.indexOf(thing);
    if (at < 0) lightLinking.things.push(thing);
    else lightLinking.things.splice(at, 1);
  });
}

/** Lights and cards as a kit sets them up. */
export interface PlacedLights {
  lights: SetLight[];
  cards: CardSurface[];
  /** Luminance of the room, cd/m2. */
  room: number;
  /** What stands behind and round it, where the kit brings that along. */
  backdrop?: Backdrop;
}

/** The ground and the room that a light is made for. */
export interface Backdrop {
  /** sRGB hex. */
  colour: string;
  roughness: number;
  /** How strong a mirror image the ground shows, 0..1. */
  mirror: number;
  room: RoomKind;
}

/** Gives sweeps, walls and floors the look of a backdrop, and the set its room. */
function putBehind(set: SetDocument, { colour, roughness, mirror, room }: Backdrop): void {
  for (const surface of set.surfaces) {
    const behind = 'mirror' in surface || ('form' in surface && ['floor', 'wall'].includes(surface.form));
    if (!behind) continue;
    Object.assign(surface, { colour, roughness, finish: null });
    if ('mirror' in surface) surface.mirror = { ...surface.mirror, strength: mirror };
  }
  set.environment.room.kind = room;
}

/** Puts a kit's lights and cards in the place of the set's own. */
export function useLights({ lights, cards, room, backdrop }: PlacedLights, name: string): SetCommand {
  return {
    label: `Light kit "${name}"`,
    run: (set) => {
      set.lights = lights;
      set.surfaces = [...set.surfaces.filter((s) => s.kind !== 'card'), ...cards];
      set.environment.intensity = room;
      if (backdrop) putBehind(set, backdrop);
    },
  };
}
