import { choice, number, propertiesOf, share, smallLength, toggle } from '../../../properties/index.ts';
import { field, list, numbers, oneOf, shape } from '../../fields.ts';

export const CAPS = ['none', 'lid', 'cork'] as const;

/** A body turned round its axis. */
export interface TurnedBuilder {
  kind: 'turned';
  /** The outer side from the middle of the base to the lip: [radius, height, fillet radius]. */
  profile: Array<[number, number, number]>;
  /** Thickness of the wall; 0 is solid. */
  wall: number;
  /** How full of liquid it is, 0..1 of the inside; only when it has a wall. */
  fill: number;
  cap: { kind: (typeof CAPS)[number]; height: number };
  /** A label round the body between two heights, over so many degrees; none when `shown` is false. */
  band: { shown: boolean; from: number; to: number; degrees: number };
}

export const TURNED_PROPERTIES = propertiesOf<TurnedBuilder>()({
  wall: smallLength('Wall', 0, 0.5, { step: 0.1 }),
  fill: share('Fill level'),
  'cap.kind': choice('Cap', CAPS),
  'cap.height': smallLength('Cap height', 0, 1, { step: 1 }),
  'band.shown': toggle('Label band'),
  'band.from': smallLength('Band from', 0, 5, { step: 1 }),
  'band.to': smallLength('Band to', 0, 5, { step: 1 }),
  'band.degrees': number('Band round', 'deg', 1, 360),
});

export const turnedSchema = shape<TurnedBuilder>({
  kind: oneOf('Builder', ['turned']),
  profile: list(
    'Profile',
    numbers<[number, number, number]>('Profile point', 3, -1, 5),
    400,
    2,
    'A profile needs at least two points.',
  ),
  wall: field(TURNED_PROPERTIES.wall),
  fill: field(TURNED_PROPERTIES.fill),
  cap: shape<TurnedBuilder['cap']>({
    kind: field(TURNED_PROPERTIES['cap.kind']),
    height: field(TURNED_PROPERTIES['cap.height']),
  }),
  band: shape<TurnedBuilder['band']>({
    shown: field(TURNED_PROPERTIES['band.shown']),
    from: field(TURNED_PROPERTIES['band.from']),
    to: field(TURNED_PROPERTIES['band.to']),
    degrees: field(TURNED_PROPERTIES['band.degrees']),
  }),
});
