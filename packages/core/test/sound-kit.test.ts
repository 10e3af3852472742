import { expect } from 'chai';
import {
  GlidingFilter,
  KIT_KINDS,
  makeKitSound,
  SAMPLE_RATE,
  SOUND_KIT,
  type KitKind,
  type Sound,
} from '@tender-orbit/core/audio';

const make = (kind: KitKind, values: object = {}): Sound =>
  makeKitSound({ kind, seconds: SOUND_KIT[kind].seconds, pitch: 0, weight: 0.5, seed: 1, ...values });
const peakOf = ({ left, right }: Sound): number =>
  left.reduce((most, v, i) => Math.max(most, Math.abs(v), Math.abs(right[i])), 0);
const energy = (data: Float32Array, from = 0, to = data.length): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += data[i] * data[i];
  return sum;
};
/** Mean crossings of zero a second: which way is up in frequency. */
function crossings(data: Float32Array, from = 0, to = data.length): number {
  let count = 0;
  for (let i = from + 1; i < to; i++) if (data[i] < 0 !== data[i - 1] < 0) count++;
  return (count * SAMPLE_RATE) / (to - from);
}
/** Share of its length at which the middle of its energy lies. */
function middle(data: Float32Array): number {
  const half = energy(data) / 2;
  let sum = 0;
  for (let i = 0; i < data.length; i++) if ((sum += data[i] * data[i]) >= half) return i / data.length;
  return 1;
}

describe('sound kit', () => {
  for (const kind of KIT_KINDS)
    it(`${SOUND_KIT[kind].name}: as long as asked, as loud as stated, silent at both ends, the same each time`, () => {
      const sound = make(kind);
      const samples = Math.round(SOUND_KIT[kind].seconds * SAMPLE_RATE);
      expect([sound.left.length, sound.right.length]).deep.equal([samples, samples]);
      expect(peakOf(sound)).closeTo(SOUND_KIT[kind].peak, 1e-6);
      expect(Math.abs(sound.left[0])).below(0.02);
      expect(Math.abs(sound.left[samples - 1])).below(0.001);
      expect(sound.left.every(Number.isFinite)).equal(true);
      expect(make(kind).left).deep.equal(sound.left);
      expect(make(kind, { seconds: 0.05 }).left.every(Number.isFinite)).equal(true);
      expect(make(kind, { weight: 1 }).left).not.deep.equal(sound.left);
    });

  it('another seed is another sound of the same kind, and the sides differ where chance is heard', () => {
    for (const kind of ['whoosh', 'riser', 'shimmer', 'smoke-puff'] as const) {
      const one = make(kind);
      expect(make(kind, { seed: 2 }).left, kind).not.deep.equal(one.left);
      expect(one.left, kind).not.deep.equal(one.right);
    }
  });

  it('higher in pitch is higher in frequency', () => {
    for (const kind of ['whoosh', 'riser', 'hit', 'sub-drop', 'shimmer', 'glass-tap', 'smoke-puff'] as const)
      expect(crossings(make(kind, { pitch: 12 }).left), kind).above(1.15 * crossings(make(kind).left));
  });

  it('accents lie where the kit says', () => {
    expect(middle(make('whoosh').left)).closeTo(SOUND_KIT.whoosh.accent, 0.08);
    expect(middle(make('riser').left)).above(0.7);
    for (const kind of ['hit', 'glass-tap'] as const) expect(middle(make(kind).left), kind).below(0.2);
  });

  it('a riser rises and a sub drop falls', () => {
    const [rises, falls] = [make('riser').left, make('sub-drop').left];
    const third = (data: Float32Array, n: number): number =>
      crossings(data, Math.floor((n * data.length) / 3), Math.floor(((n + 0.9) * data.length) / 3));
    expect(third(rises, 2)).above(1.5 * third(rises, 0));
    expect(third(falls, 2)).below(0.7 * third(falls, 0));
  });

  it('is bounded at every setting, also far outside usual ones', () => {
    for (const kind of KIT_KINDS)
      for (const [pitch, weight, seconds] of [
        [-36, 0, 0.3],
        [36, 1, 0.3],
      ])
        expect(peakOf(make(kind, { pitch, weight, seconds })), `${kind} ${pitch}`).closeTo(SOUND_KIT[kind].peak, 1e-6);
  });
});

describe('gliding filter', () => {
  /** Height of a sine after it went through, from its power: no sample need lie on its top. */
  function gain(which: 'low' | 'band' | 'high', frequency: number, corner: number, q: number): number {
    const filter = new GlidingFilter(SAMPLE_RATE);
    filter.set(corner, q);
    let power = 0;
    for (let i = 0; i < 48000; i++) {
      const out = filter.next(Math.sin((2 * Math.PI * frequency * i) / SAMPLE_RATE))[which];
      if (i >= 24000) power += out * out;
    }
    return Math.sqrt(power / 12000);
  }
  it('lets through below, at and above its corner as an analogue one of second order', () => {
    expect(gain('low', 100, 1000, Math.SQRT1_2)).closeTo(1, 0.01);
    expect(gain('low', 1000, 1000, Math.SQRT1_2)).closeTo(Math.SQRT1_2, 0.01);
    expect(gain('low', 8000, 1000, Math.SQRT1_2)).below(0.02);
    expect(gain('high', 8000, 1000, Math.SQRT1_2)).closeTo(1, 0.02);
    expect(gain('band', 1000, 1000, 4)).closeTo(1, 0.01);
    expect(gain('band', 2000, 1000, 4)).closeTo(1 / Math.sqrt(1 + 16 * 1.5 * 1.5), 0.02);
  });
});
