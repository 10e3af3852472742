import { log2 } from '../maths/index.ts';
/** Scene value that a card of 18 % reflectance has at correct exposure: the middle of the meter. */
export const MIDDLE_GREY = 0.18;

/** A zone of the false-colour picture: from so many stops against middle grey, with its sRGB colour. */
export interface Zone {
  from: number;
  name: string;
  colour: readonly [number, number, number];
}

/** Dark to bright; what lies between is grey, so that only what needs a look stands out. */
export const ZONES: readonly Zone[] = [
  { from: -Infinity, name: 'black', colour: [38, 24, 62] },
  { from: -5, name: 'deep shadow', colour: [74, 70, 132] },
  { from: -3, name: 'shadow', colour: [72, 72, 74] },
  { from: -0.35, name: 'middle grey', colour: [120, 178, 150] },
  { from: 0.35, name: 'light', colour: [148, 148, 150] },
  { from: 1.6, name: 'label white', colour: [226, 208, 158] },
  { from: 2.3, name: 'highlight', colour: [228, 160, 92] },
  { from: 3.4, name: 'burnt out', colour: [214, 84, 76] },
];

/** Stops above or below middle grey of an exposed scene value. */
export function stopsOf(value: number): number {
  return value > 0 ? log2(value / MIDDLE_GREY) : -Infinity;
}

/** Index into ZONES. */
export function zoneOf(stops: number): number {
  let zone = 0;
  while (zone + 1 < ZONES.length && stops >= ZONES[zone + 1].from) zone++;
  return zone;
}

/** A picture's luminances (exposed, scene-linear) as false colours: RGBA bytes. */
export function falseColours(luminance: Float32Array): Uint8ClampedArray {
  const out = new Uint8ClampedArray(luminance.length * 4);
  luminance.forEach((v, i) => out.set([...ZONES[zoneOf(stopsOf(v))].colour, 255], i * 4));
  return out;
}

export interface Histogram {
  /** Stops at the middle of each bin, and the share of pixels in it. */
  stops: number[];
  share: number[];
  /** Share of pixels that are burnt out, and that are black. */
  burnt: number;
  black: number;
}

/** How a picture's luminances are spread over stops from -8 to +6 against middle grey; what lies outside is in the end bins. */
export function stopsHistogram(luminance: Float32Array, binsPerStop = 4): Histogram {
  const [low, high] = [-8, 6];
  const bins = new Float64Array((high - low) * binsPerStop);
  let [burnt, black] = [0, 0];
  for (const v of luminance) {
    const stops = stopsOf(v);
    const bin = Math.floor((stops - low) * binsPerStop);
    bins[Math.min(bins.length - 1, Math.max(0, Number.isFinite(bin) ? bin : 0))]++;
    const zone = zoneOf(stops);
    if (zone === ZONES.length - 1) burnt++;
    if (zone === 0) black++;
  }
  const count = Math.max(1, luminance.length);
  return {
    stops: Array.from(bins, (_, i) => low + (i + 0.5) / binsPerStop),
    share: Array.from(bins, (n) => n / count),
    burnt: burnt / count,
    black: black / count,
  };
}
