import {
  newLayer,
  type Layer,
  type LayerKind,
  type LayerOf,
  type ShotDocument,
  type Track,
} from '@tender-orbit/core/document';
import type { DemoTake } from './campaign.ts';

const layer = <K extends LayerKind>(kind: K, id: string, name: string, values: Partial<LayerOf<K>> = {}): Layer =>
  newLayer(kind, id, name, values as Partial<Layer>);

/** A number that goes from one value to another over a shot. */
const moving = (thing: string, path: string, from: number, to: number, last: number): Track => ({
  ...{ thing, path },
  keys: [
    { frame: 0, value: from, ease: 'eased' },
    { frame: last, value: to, ease: 'eased' },
  ],
});

/** Heather petals that drift round the jar: where each begins, how far out, how high, and its colour. */
const PETALS = [
  { azimuth: -75, distance: 0.07, lift: 0.105, colour: '#A674C8' },
  { azimuth: 20, distance: 0.095, lift: 0.075, colour: '#8F5FB4' },
  { azimuth: 120, distance: 0.065, lift: 0.085, colour: '#B98AD6' },
  { azimuth: 215, distance: 0.085, lift: 0.12, colour: '#9C6BBE' },
] as const;

const petal = ({ azimuth, distance, lift, colour }: (typeof PETALS)[number], i: number): Layer =>
  layer('shape', `hero-petal-${i}`, `Heather petal ${i + 1}`, {
    ...{ colour, width: 0.5, height: 0.24, softness: 0.09, inSet: true, thing: 'jar', metres: 0.03 },
    ...{ azimuth, distance, lift, rotation: i * 47 },
  });

/** It goes a third of the way round, sinks, turns and flutters. */
const flight = ({ azimuth, lift }: (typeof PETALS)[number], i: number, last: number): Track[] => [
  moving(`hero-petal-${i}`, 'azimuth', azimuth, azimuth + 110 + i * 12, last),
  moving(`hero-petal-${i}`, 'lift', lift, lift - 0.05, last),
  moving(`hero-petal-${i}`, 'rotation', i * 47, i * 47 + 150, last),
  {
    ...{ thing: `hero-petal-${i}`, path: 'stretch' },
    keys: [1, 0.4, 0.95, 0.35].map((value, k) => ({
      frame: Math.round((k * last) / 3),
      value,
      ease: 'eased' as const,
    })),
  },
];

/** The finish of the demo's shots over their takes: what is added to a shot's document. */
export function compositeOf(shot: DemoTake, { length, tracks }: ShotDocument): Pick<ShotDocument, 'layers' | 'tracks'> {
  const last = length - 1;
  if (shot === 'hero')
    return {
      layers: [
        layer('take', 'hero-take', 'Take'),
        layer('gradient', 'hero-glow', 'Evening glow', {
          ...{ form: 'radial', colour: '#F2A33C', otherColour: '#F2A33C', otherOpacity: 0, size: 1.5, middle: 0.4 },
          ...{ behind: true, blend: 'screen', opacity: 0.4, x: 0.1, y: 0.05, stretch: 1.3 },
        }),
        layer('vapour', 'hero-haze', 'Moor haze', {
          ...{ colour: '#C9A9C4', size: 0.6, contrast: 1.5, brightness: -0.12, drift: 0.05, rise: 0.03, behind: true },
          ...{
            blend: 'screen',
            opacity: 0.14,
            mask: 'ellipse',
            maskWidth: 2.4,
            maskHeight: 0.7,
            maskY: -0.1,
            feather: 0.5,
          },
        }),
        layer('specks', 'hero-pollen', 'Pollen', {
          ...{ colour: '#FFD998', count: 320, size: 0.007, spread: 0.7, rise: 0.05, drift: 0.03, seed: 5 },
          ...{ blend: 'screen', opacity: 0.75, inSet: true, thing: 'jar', lift: 0.08, metres: 0.5 },
        }),
        ...PETALS.map(petal),
        layer('grade', 'hero-grade', 'Honey grade', {
          ...{ contrast: 1.08, pivot: 0.18, saturation: 1.06, slopeRed: 1.03, slopeBlue: 0.95, offsetBlue: 0.004 },
        }),
        layer('lens', 'hero-lens', 'Lens', { bloom: 0.1, bloomSize: 0.07, vignette: 0.4, grain: 0.12, halation: 0.15 }),
      ],
      tracks: [
        ...tracks,
        moving('hero-glow', 'opacity', 0.1, 0.45, last),
        ...PETALS.flatMap((one, i) => flight(one, i, last)),
      ],
    };
  if (shot === 'reveal')
    return {
      layers: [
        layer('take', 'reveal-take', 'Take'),
        layer('grade', 'reveal-grade', 'Honey grade', {
          ...{ contrast: 1.12, pivot: 0.18, saturation: 1.04, slopeRed: 1.02, slopeBlue: 0.98 },
        }),
        layer('lens', 'reveal-lens', 'Lens', {
          bloom: 0.1,
          bloomSize: 0.08,
          vignette: 0.4,
          grain: 0.12,
          halation: 0.15,
        }),
      ],
      tracks,
    };
  return {
    layers: [
      layer('take', 'lid-take', 'Take'),
      layer('grade', 'lid-grade', 'Honey grade', {
        ...{ contrast: 1.1, pivot: 0.18, saturation: 1.05, slopeRed: 1.03, slopeBlue: 0.95 },
      }),
      layer('lens', 'lid-lens', 'Lens', { bloom: 0.12, bloomSize: 0.06, vignette: 0.45, grain: 0.12, halation: 0.2 }),
    ],
    tracks,
  };
}
