import {
  newKitSound,
  newLayer,
  newPromo,
  newTitle,
  newClipPicture,
  noBeats,
  type Clip,
  type ClipPicture,
  type Ease,
  type Pace,
  type PromoDocument,
  type Track,
  type Transition,
} from '@tender-orbit/core/document';
import { fromTo, soundsForCut } from '@tender-orbit/core/promo';
import { BEAT, demoCampaign, type DemoTake } from './campaign.ts';

/** Ids of the demo's takes. */
type DemoTakes = Record<DemoTake, string>;

const BAR = 4 * BEAT;

type Place = Pick<ClipPicture, 'scale' | 'x' | 'y' | 'rotation'>;
const place = (scale: number, x = 0, y = 0, rotation = 0): Place => ({ scale, x, y, rotation });
/** A clip whose picture goes from one place to another, and its keys. */
type Moving = Clip & { way: [from: Place, to: Place, ease?: Ease] };
const LAND: Ease = { kind: 'soft', start: 0, landing: 1 };
const pace = (from: number, to = from, reverse = false): Pace => ({ from, to, reverse, between: 'compensated' });
const into = (kind: Transition['kind'], frames: number, values: Partial<Transition> = {}): Transition => ({
  ...{ kind, frames, angle: 0, softness: 0.3, colour: '#1B0F1E' },
  ...values,
});

/** Seven shots of three takes in five bars: the jar comes out of the smoke, each bar something changes, and the last hit rings out under the name. */
function clips({ hero, lid, reveal }: DemoTakes): Moving[] {
  return [
    {
      ...{ id: 'clip-smoke', take: reveal, start: 0, length: BAR, pace: pace(0.6, 0.46) },
      way: [place(1.06), place(1)],
    },
    {
      ...{ id: 'clip-label', take: hero, start: 4, length: BAR / 2, pace: pace(0.8) },
      ...{ way: [place(1.75, -0.34, 0.04), place(1.65, -0.3, 0.04)], into: into('whip', 8, { angle: 180 }) },
    },
    {
      ...{ id: 'clip-emboss', take: lid, start: 4, length: BAR / 2, pace: pace(0.8, 0.6) },
      way: [place(1.5, 0.02, -0.34), place(1.35, 0.02, -0.3)],
      into: into('wipe', 8, { angle: -35 }),
    },
    {
      ...{ id: 'clip-turn', take: hero, start: 5, length: BAR, pace: pace(0.85, 0.45) },
      ...{ way: [place(1), place(1.08, -0.02)], into: into('dissolve', 10) },
    },
    {
      ...{ id: 'clip-dipper', take: hero, start: 10, length: BAR / 2, pace: pace(0.8) },
      ...{ way: [place(1.7, -0.66, 0.3), place(1.6, -0.6, 0.26)], into: into('slide', 8, { angle: 180 }) },
    },
    {
      ...{ id: 'clip-light', take: lid, start: 5, length: BAR / 2, pace: pace(0.9, 0.9, true) },
      ...{ way: [place(1.25, 0, -0.1, 4), place(1.25, 0, -0.1, -2)], into: into('flash', 6) },
    },
    {
      ...{ id: 'clip-end', take: hero, start: 22, length: BAR, pace: pace(0.7, 0.1) },
      ...{ way: [place(1.06), place(1), LAND], into: into('zoom', 10) },
    },
  ];
}

/** After the flash the light comes down to what it was, over two beats. */
const AFTERGLOW = {
  layer: newLayer('grade', 'layer-glow', 'Afterglow', { start: 3 * BAR + BAR / 2, length: BAR / 2 }),
  tracks: (
    [
      ['exposure', 0.7, 0],
      ['saturation', 0.7, 1],
    ] as const
  ).map(([path, from, to]): Track => ({
    ...{ thing: 'layer-glow', path },
    keys: [
      { frame: 3 * BAR + BAR / 2, value: from, ease: LAND },
      { frame: 4 * BAR - 4, value: to, ease: 'eased' },
    ],
  })),
};

/** The cut with its sounds: what a press on "Sound the cut" gives, a breath of smoke, and weight under the name. */
export function demoPromo(takes: DemoTakes, music: { asset: string; name: string; tempo: number }): PromoDocument {
  const silent = silentPromo(takes, music);
  const own = [
    newKitSound('sound-smoke', 'smoke-puff', 8, { gain: -8, pan: -0.4, panTo: 0.4 }),
    newKitSound('sound-name', 'sub-drop', 4 * BAR, { gain: -12, duck: 2 }),
    newKitSound('sound-light', 'shimmer', 3 * BAR + BEAT * 3, { gain: -14 }),
  ];
  let made = 0;
  const cut = soundsForCut({ ...silent, sounds: own }, demoCampaign().frameRate, () => `sound-cut-${++made}`);
  return { ...silent, sounds: [...own, ...cut] };
}

function silentPromo(takes: DemoTakes, music: { asset: string; name: string; tempo: number }): PromoDocument {
  const moving = clips(takes);
  const moves = moving.map(({ id, length, way }) => ({ id, ...fromTo(length, ...way) }));
  return {
    ...newPromo('Heather launch 16x9', 960, 540),
    clips: moving.map(({ way: _, ...clip }, i) => ({ ...clip, picture: newClipPicture(moves[i].picture) })),
    tracks: [
      ...moves.flatMap(({ id, keys }) =>
        Object.entries(keys).map(([path, own]): Track => ({ thing: id, path, keys: own })),
      ),
      ...AFTERGLOW.tracks,
    ],
    layers: [AFTERGLOW.layer],
    markers: [{ id: 'marker-name', name: 'Name', at: 4 * BAR, length: 0 }],
    titles: [
      newTitle('title-slow', {
        ...{ text: 'Slow as the hill', size: 54, x: 0.06, y: 0.11, align: 'left', start: 0, length: BAR - 2 },
        arrive: { kind: 'rise', frames: 9 },
        leave: { kind: 'fade', frames: 6 },
        parts: { part: 'word', order: 'forward', overlap: 0, seed: 1, times: [0, BEAT, BEAT + 7, 2 * BEAT] },
      }),
      newTitle('title-season', {
        ...{
          text: 'Autumn heather',
          size: 44,
          x: 0.94,
          y: 0.14,
          align: 'right',
          start: 2 * BAR + BEAT,
          length: 3 * BEAT - 6,
        },
        colour: '#F3E3C3',
        arrive: { kind: 'fade', frames: 18 },
        leave: { kind: 'fade', frames: 6 },
        parts: { part: 'letter', order: 'random', overlap: 0.7, seed: 4, times: [] },
      }),
      newTitle('title-name', {
        ...{ text: 'Vellowmere', size: 50, x: 0.945, y: 0.16, align: 'right', colour: '#F3E3C3' },
        ...{ start: 4 * BAR + 6, length: BAR - 6 },
        arrive: { kind: 'rise', frames: 16 },
        leave: { kind: 'fade', frames: 10 },
        parts: { part: 'letter', order: 'forward', overlap: 0.6, seed: 1, times: [] },
      }),
      newTitle('title-line', {
        ...{ text: 'HEATHER HONEY, AUTUMN', font: 'hanken-grotesk-500', size: 17, tracking: 0.18 },
        ...{ x: 0.945, y: 0.245, align: 'right', start: 4 * BAR + BEAT + 6, length: 3 * BEAT - 6 },
        arrive: { kind: 'fade', frames: 12 },
        leave: { kind: 'fade', frames: 10 },
      }),
    ],
    music: {
      ...{ ...music, trim: 0, gain: 0, fadeIn: 0, fadeOut: 0, ring: 2.5, loudness: -16, firstBeat: 0 },
      ...noBeats(),
    },
  };
}
