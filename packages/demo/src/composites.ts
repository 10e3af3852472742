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
          ...{ colour: '#FFD998', count: 70, size: 0.014, spread: 0.85, rise: 0.04, drift: 0.025, seed: 5 },
          ...{ blend: 'screen', opacity: 0.6 },
        }),
        layer('grade', 'hero-grade', 'Honey grade', {
          ...{ contrast: 1.08, pivot: 0.18, saturation: 1.06, slopeRed: 1.03, slopeBlue: 0.95, offsetBlue: 0.004 },
        }),
        layer('lens', 'hero-lens', 'Lens', { bloom: 0.1, bloomSize: 0.07, vignette: 0.4, grain: 0.12, halation: 0.15 }),
      ],
      tracks: [...tracks, moving('hero-glow', 'opacity', 0.1, 0.45, last)],
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
