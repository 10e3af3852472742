import type { Arrival, TitleDress, TitleStyle } from '../document/index.ts';
import { newDress, newParts } from '../document/index.ts';

/** A style of a title to begin with, and what it is good for. */
export interface TitleLook {
  name: string;
  style: TitleStyle;
  /** Words that show it. */
  sample: string;
}

const way = (kind: Arrival['kind'], frames: number): Arrival => ({ kind, frames });
const dress = (values: Partial<TitleDress>): TitleDress => ({ ...newDress(), ...values });
/** Heights of letters are of a promo 540 pixels high. */
const style = (values: Partial<TitleStyle>): TitleStyle => ({
  ...{ font: 'fraunces-600', size: 56, tracking: 0, colour: '#F3E3C3', align: 'centre' },
  ...{ arrive: way('fade', 12), leave: way('fade', 10) },
  ...values,
});

/** The gallery of titles. */
export const TITLE_LOOKS: readonly TitleLook[] = [
  {
    ...{ name: 'Rising words', sample: 'Slow as the hill' },
    style: style({ arrive: way('unmask', 26), parts: { ...newParts('word'), overlap: 0.4 } }),
  },
  {
    ...{ name: 'Out of the haze', sample: 'Autumn heather' },
    style: style({
      ...{ font: 'cormorant-garamond-500-italic', size: 64, arrive: way('blur', 22), leave: way('blur', 12) },
      fill: { colour: '#E0A63C', angle: 0 },
    }),
  },
  {
    ...{ name: 'Wide breath', sample: 'VELLOWMERE' },
    style: style({
      font: 'hanken-grotesk-500',
      size: 40,
      tracking: 0.32,
      colour: '#ECE7F2',
      arrive: way('tracking', 30),
    }),
  },
  {
    ...{ name: 'Poster', sample: 'NEW HARVEST' },
    style: style({
      ...{ font: 'bebas-neue-400', size: 92, colour: '#FFFFFF', arrive: way('scale', 10), leave: way('none', 0) },
      dress: dress({ shadow: 0.55, shadowBlur: 0.3, shadowDown: 0.06 }),
    }),
  },
  {
    ...{ name: 'By hand', sample: 'from the moor' },
    style: style({ font: 'caveat-700', size: 62, arrive: way('type', 24), parts: newParts('letter') }),
  },
  {
    ...{ name: 'Signature', sample: 'Vellowmere' },
    style: style({
      font: 'great-vibes-400',
      size: 74,
      arrive: way('fade', 20),
      parts: { ...newParts('letter'), overlap: 0.7 },
    }),
  },
  {
    ...{ name: 'Tumbling letters', sample: 'Honeycomb' },
    style: style({
      ...{ font: 'abril-fatface-400', size: 58, arrive: way('turn', 26) },
      parts: { ...newParts('letter'), overlap: 0.6, order: 'middle' },
    }),
  },
  {
    ...{ name: 'Flickering sign', sample: 'OPEN NOW' },
    style: style({
      ...{ font: 'barlow-condensed-700', size: 66, tracking: 0.06, colour: '#FFB54A', arrive: way('flicker', 30) },
      parts: { ...newParts('letter'), order: 'random', overlap: 0.8, seed: 5 },
      dress: dress({ shadow: 0.9, shadowColour: '#FF8A1F', shadowBlur: 0.35, shadowDown: 0 }),
    }),
  },
  {
    ...{ name: 'Counted', sample: '1,200 jars' },
    style: style({ font: 'spline-sans-mono-500', size: 52, colour: '#ECE7F2', arrive: way('count', 36) }),
  },
  {
    ...{ name: 'Corner tag', sample: 'Heather honey' },
    style: style({
      ...{ font: 'hanken-grotesk-500', size: 22, colour: '#1B0F1E', align: 'left', arrive: way('slide', 14) },
      ...{ leave: way('slide', 10), dress: dress({ box: 1, boxColour: '#F3E3C3', boxPadding: 0.6, boxRadius: 0.5 }) },
    }),
  },
  {
    ...{ name: 'Small print', sample: 'Made in small numbers, until it is gone.' },
    style: style({
      ...{ font: 'hanken-grotesk-500', size: 17, colour: '#D9D2E3', arrive: way('fade', 16), balanced: true },
      measure: 0.6,
    }),
  },
];
