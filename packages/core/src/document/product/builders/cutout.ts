import { propertiesOf, smallLength } from '../../../properties/index.ts';
import { field, finite, list, name, oneOf, shape } from '../../fields.ts';

/** Letters or a logo given depth. */
export interface CutoutBuilder {
  kind: 'cutout';
  /** What the outlines say or come from. */
  label: string;
  /** Outlines at height 1, y up: pairs of numbers, each outline closed; inner ones cut holes. */
  outlines: number[][];
  height: number;
  depth: number;
  bevel: number;
}

export const CUTOUT_PROPERTIES = propertiesOf<CutoutBuilder>()({
  height: smallLength('Height', 0.001, 5, { step: 1 }),
  depth: smallLength('Depth', 0.0002, 2),
  bevel: smallLength('Edge radius', 0, 0.5, { step: 0.1 }),
});

const outline = list(
  'Points of an outline',
  finite('Outline point', -1000, 1000),
  20000,
  6,
  'An outline needs at least three points.',
);

export const cutoutSchema = shape<CutoutBuilder>({
  kind: oneOf('Builder', ['cutout']),
  label: name('Words or file'),
  outlines: list('Outlines', outline, 2000),
  height: field(CUTOUT_PROPERTIES.height),
  depth: field(CUTOUT_PROPERTIES.depth),
  bevel: field(CUTOUT_PROPERTIES.bevel),
});
