import { count, length, number, place, propertiesOf, reference, share, turn } from '../../../properties/index.ts';
import type { Item, Point } from '../../common.ts';
import { field, item, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';

export interface SetCamera extends Item {
  position: Point;
  aim: Point;
  /** Degrees about its line of sight; positive tips it to its left, so that the picture tips to the right. */
  roll: number;
  /** mm. */
  focalLength: number;
  sensorWidth: number;
  /** 0 is a pinhole: everything sharp. */
  fNumber: number;
  /** Metres; 0 focuses on the aim point. */
  focus: number;
  /** Id of a thing whose middle is kept in focus; empty: by `focus`. */
  focusOn: string;
  exposure: number;
  /** Edges of the aperture; 0: round. */
  blades: number;
  /** How far the lens is shifted, in picture widths and heights: keeps verticals straight. */
  shiftX: number;
  shiftY: number;
  /** Shutter angle in degrees: 180 keeps it open for half a frame, 0 freezes all motion. */
  shutter: number;
}

const PROPERTIES = propertiesOf<SetCamera>()({
  focalLength: number('Focal length', 'mm', 4, 1200, { usual: 85 }),
  fNumber: number('Aperture', 'f/', 0, 128, { step: 0.1, usual: 5.6 }),
  focus: length('Focus', 0, 1000, { usual: 0 }),
  focusOn: reference('Focus on'),
  exposure: number('Exposure', 'EV', -20, 20, { step: 0.1, usual: 0 }),
  shutter: number('Shutter', 'deg', 0, 720, { step: 5, usual: 180 }),
  sensorWidth: number('Sensor', 'mm', 1, 100, { step: 0.1, usual: 36 }),
  // An aperture of one or two edges encloses nothing.
  blades: count('Blades', 0, 16, { usual: 0, gap: [0, 3] }),
  shiftX: share('Shift across', { min: -1, usual: 0 }),
  shiftY: share('Shift up', { min: -1, usual: 0 }),
  position: place('Position', ['Across', 'Height', 'Forward']),
  aim: place('Aim', ['Aim across', 'Aim height', 'Aim forward']),
  roll: turn('Roll'),
});

const GROUPS = [
  { title: 'Lens', paths: ['focalLength', 'fNumber', 'focus', 'exposure', 'shutter'] },
  { title: 'Body', paths: ['sensorWidth', 'blades', 'shiftX', 'shiftY'] },
  { title: 'Place', paths: ['position'] },
  { title: 'Aim', paths: ['aim', 'roll'] },
];

export const camera: ThingKindOf<SetCamera> = {
  role: 'camera',
  schema: shape<SetCamera>({
    ...item('Camera name'),
    position: field(PROPERTIES.position),
    aim: field(PROPERTIES.aim),
    roll: field(PROPERTIES.roll),
    focalLength: field(PROPERTIES.focalLength),
    sensorWidth: field({ ...PROPERTIES.sensorWidth, label: 'Sensor width' }),
    fNumber: field(PROPERTIES.fNumber),
    focus: field({ ...PROPERTIES.focus, label: 'Focus distance' }),
    focusOn: field(PROPERTIES.focusOn),
    exposure: field(PROPERTIES.exposure),
    blades: field(PROPERTIES.blades),
    shiftX: field(PROPERTIES.shiftX),
    shiftY: field(PROPERTIES.shiftY),
    shutter: field({ ...PROPERTIES.shutter, label: 'Shutter angle' }),
  }),
  properties: () => PROPERTIES,
  groups: () => GROUPS,
};

export function newCamera(id: string, name: string, values: Partial<SetCamera> = {}): SetCamera {
  return {
    id,
    name,
    position: [0, 0.16, 0.75],
    aim: [0, 0.06, 0],
    roll: 0,
    focalLength: 85,
    sensorWidth: 36,
    fNumber: 5.6,
    focus: 0,
    focusOn: '',
    exposure: 0,
    blades: 0,
    shiftX: 0,
    shiftY: 0,
    shutter: 180,
    ...values,
  };
}
