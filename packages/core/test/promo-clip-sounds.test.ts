import { expect } from 'chai';
import { decibelsToGain, readAlong, SAMPLE_RATE, silence, type Sound } from '@tender-orbit/core/audio';
import {
  copyClipAttributes,
  newKitSound,
  newOverlay,
  newPace,
  newPromo,
  newTransition,
  noBeats,
  runCommand,
  validateDocument,
  type Clip,
  type Footage,
  type OwnSound,
  type Pace,
  type PromoDocument,
} from '@tender-orbit/core/document';
import {
  clipToOverlay,
  heardOfCut,
  nestItems,
  overlayToClip,
  ownPeaks,
  soundFilesOf,
  soundTrack,
} from '@tender-orbit/core/promo';

const RATE = { num: 24, den: 1 };
const HASH = 'c'.repeat(64);
const OTHER = 'd'.repeat(64);
const SOUND: OwnSound = { gain: 0, pitch: 'kept' };
const film = (id: string, sound: string, rate = 24): Footage => ({
  ...{ id, name: id, list: 'a'.repeat(64), poster: 'b'.repeat(64), frames: 240, width: 64, height: 36 },
  ...{ rate, sound },
});
const clip = (id: string, take: string, length: number, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take, start: 0, length, sound: SOUND },
  ...values,
});
const promo = (clips: Clip[], values: Partial<PromoDocument> = {}): PromoDocument => ({
  ...newPromo('Launch', 320, 180),
  ...{ clips, footage: [film('film', HASH), film('other', OTHER)] },
  ...values,
});
function made(seconds: number, at: (sample: number) => number): Sound {
  const sound = silence(Math.round(seconds * SAMPLE_RATE));
  for (let i = 0; i < sound.left.length; i++) sound.left[i] = sound.right[i] = at(i);
  return sound;
}
const tone = (hertz: number): Sound => made(10, (i) => 0.4 * Math.sin((2 * Math.PI * hertz * i) / SAMPLE_RATE));
const heard = (document: PromoDocument, file: Sound, other: Sound = silence(1)): Float32Array =>
  soundTrack(
    document,
    RATE,
    null,
    SAMPLE_RATE,
    new Map([
      [HASH, file],
      [OTHER, other],
    ]),
  ).left;
/** How often a second a sound goes up through nothing, in its middle. */
function pitchOf(sound: Float32Array): number {
  const [from, to] = [Math.round(sound.length * 0.2), Math.round(sound.length * 0.8)];
  let up = 0;
  for (let i = from; i < to; i++) if (sound[i - 1] < 0 && sound[i] >= 0) up++;
  return (up * SAMPLE_RATE) / (to - from);
}
const even = (speed: number, values: Partial<Pace> = {}): Pace => ({ ...newPace(), from: speed, to: speed, ...values });

describe('promo: the sound of what clips show', () => {
  it('is heard from the frame that is shown, to the sample, with its gain; without being asked for it is not', () => {
    const file = made(10, (i) => 0.3 * Math.sin(i * 0.01) * Math.cos(i * 0.00037));
    const shown = clip('a', 'film', 24, { start: 12, sound: { ...SOUND, gain: -6 } });
    const left = heard(promo([clip('before', 'film', 6, { sound: undefined }), shown]), file);
    const [from, first] = [6 * 2000, 12 * 2000];
    expect(left.subarray(0, from).every((v) => v === 0)).equal(true);
    for (const i of [1000, 20_000, 40_000])
      expect(left[from + i]).closeTo(file.left[first + i] * decibelsToGain(-6), 1e-6);
    const silent = heard(promo([clip('a', 'film', 24, { off: true })]), file);
    expect(silent.every((v) => v === 0)).equal(true);
    expect(heard(promo([{ ...shown, take: 'gone' }]), file).every((v) => v === 0)).equal(true);
  });

  it('played faster keeps its pitch, or goes up with it', () => {
    const at = (speed: number, pitch: OwnSound['pitch']): number =>
      pitchOf(heard(promo([clip('a', 'film', 48, { pace: even(speed), sound: { gain: 0, pitch } })]), tone(440)));
    expect(at(2, 'follows')).closeTo(880, 4);
    expect(at(0.5, 'follows')).closeTo(220, 4);
    expect(at(2, 'kept')).closeTo(440, 8);
    expect(at(0.5, 'kept')).closeTo(440, 8);
  });

  it('follows the integral of its speed, and is silent where its picture is held', () => {
    const ramp: Pace = { ...newPace(), from: 0.5, to: 1.5 };
    // A value that says where it is read.
    const file = made(10, (i) => i / (10 * SAMPLE_RATE));
    const left = heard(promo([clip('a', 'film', 48, { pace: ramp, sound: { gain: 0, pitch: 'follows' } })]), file);
    for (const share of [0.25, 0.5, 0.75]) {
      const t = share * 2;
      const played = 0.5 * t + (t * t) / 4;
      expect(left[Math.round(t * SAMPLE_RATE)], `at ${t} s`).closeTo(played / 10, 1e-4);
    }
    const held = heard(promo([clip('a', 'film', 48, { start: 100, pace: even(0) })]), tone(440));
    expect(Math.max(...held.map(Math.abs))).equal(0);
  });

  it('is not taken for even where it is so in the mean, at its middle and at its end', () => {
    const file = made(10, (i) => i / (10 * SAMPLE_RATE));
    const points = [0, 12, 24, 36, 48].map((at, n) => ({ at, speed: n % 2 ? 1.5 : 0.5, ramp: 'even' as const }));
    const pace: Pace = { ...even(1), points };
    const left = heard(promo([clip('a', 'film', 48, { pace, sound: { gain: 0, pitch: 'follows' } })]), file);
    // A quarter of a second at a speed from 0.5 to 1.
    expect(left[SAMPLE_RATE / 4]).closeTo((0.5 / 4 + 1 / 16) / 10, 1e-4);
    expect(left[SAMPLE_RATE]).closeTo(0.1, 1e-4);
  });

  it('goes backwards with its picture', () => {
    const file = made(10, (i) => i / (10 * SAMPLE_RATE));
    const pace = even(1, { reverse: true });
    const left = heard(promo([clip('a', 'film', 48, { start: 24, pace, sound: { gain: 0, pitch: 'follows' } })]), file);
    // From the end of its three seconds to the first.
    for (const t of [0.5, 1, 1.5]) expect(left[t * SAMPLE_RATE]).closeTo((3 - t) / 10, 1e-4);
  });

  it('footage of another rate is heard at its own speed', () => {
    const document = promo([clip('a', 'film', 48, { pace: even(50 / 24) })], { footage: [film('film', HASH, 50)] });
    const file = tone(330);
    const left = heard(document, file);
    expect(left[SAMPLE_RATE]).closeTo(file.left[SAMPLE_RATE], 1e-6);
  });

  it('comes and goes with a transition, with equal power', () => {
    const into = newTransition('dissolve', 12);
    const document = promo([clip('a', 'film', 48), clip('b', 'other', 48, { start: 24, into })]);
    const [one, two] = [made(10, () => 0.25), made(10, () => -0.25)];
    const cut = 48 * 2000;
    const [first, second] = [heard(document, one, silence(1)), heard(document, silence(1), two)];
    for (const [at, share] of [
      [cut - 12_000, 0],
      [cut - 6000, 0.25],
      [cut, 0.5],
      [cut + 6000, 0.75],
    ]) {
      const angle = (share * Math.PI) / 2;
      expect(first[at], `goes at ${share}`).closeTo(0.25 * Math.cos(angle), 2e-4);
      expect(second[at], `comes at ${share}`).closeTo(-0.25 * Math.sin(angle), 2e-4);
    }
    expect(first[cut + 12_001]).equal(0);
  });

  it('an overlay is heard too', () => {
    const overlay = { ...newOverlay('o', film('film', HASH), 24, { start: 12, length: 24, first: 6 }), sound: SOUND };
    const file = tone(250);
    const left = heard(promo([clip('a', '', 48, { sound: undefined })], { overlays: [overlay] }), file);
    expect(left[20_000]).equal(0);
    expect(left[24_000 + 20_000]).closeTo(file.left[12_000 + 20_000], 1e-6);
  });

  it('has a waveform, at the speed of its picture, backwards too, and none where it is not heard', () => {
    // A click at each second of the film, the louder the later: a tenth, two tenths and so on.
    const clicks = made(10, (i) => (i % SAMPLE_RATE === 100 ? (1 + Math.floor(i / SAMPLE_RATE)) / 10 : 0));
    const source = { sound: clicks, rate: 24 };
    const peaksOf = (own: Partial<Clip>): number[] => {
      const of = promo([clip('a', 'film', 96, own)]);
      return [...ownPeaks(of, 'a', source, 4)!].map((v) => Math.round(v * 10));
    };
    expect(peaksOf({})).deep.equal([1, 2, 3, 4]);
    expect(peaksOf({ start: 48 })).deep.equal([3, 4, 5, 6]);
    // Twice as fast, each quarter holds two clicks, of which the louder is seen.
    expect(peaksOf({ pace: { ...newPace(), from: 2, to: 2 } })).deep.equal([2, 4, 6, 8]);
    expect(peaksOf({ pace: { ...newPace(), from: 2, to: 2, reverse: true } })).deep.equal([8, 6, 4, 2]);
    const over = newOverlay('o', film('film', HASH), 24, { length: 48, first: 24, speed: 1, sound: SOUND });
    const laid = promo([clip('a', 'film', 96, { sound: undefined })], { overlays: [over] });
    expect([...ownPeaks(laid, 'o', source, 2)!].map((v) => Math.round(v * 10))).deep.equal([2, 3]);
    expect(ownPeaks(laid, 'a', source, 4)).equal(null);
  });
});

describe('promo: the sound of cuts in cuts', () => {
  const inner = promo([clip('x', '', 48, { sound: undefined })], {
    name: 'Inner',
    sounds: [newKitSound('tap', 'hit', 24)],
    music: {
      ...{ asset: OTHER, name: 'Tune', trim: 0, gain: -6, fadeIn: 0, fadeOut: 0, tempo: 120, firstBeat: 0 },
      ...noBeats(),
    },
  });
  const files = new Map([[OTHER, tone(200)]]);
  const mix = (document: PromoDocument, cuts: Record<string, PromoDocument>): Float32Array =>
    soundTrack(document, RATE, null, SAMPLE_RATE, files, cuts).left;

  it('is their music and their sounds, from the frame that is shown', () => {
    const own = soundTrack(inner, RATE, files.get(OTHER)!, SAMPLE_RATE, files).left;
    const left = mix(promo([clip('a', 'inner', 24, { start: 12 })]), { inner });
    let furthest = 0;
    for (let i = 1000; i < 47_000; i++) furthest = Math.max(furthest, Math.abs(left[i] - own[24_000 + i]));
    expect(Math.max(...own.subarray(24_000, 72_000)), 'something is heard').greaterThan(0.1);
    expect(furthest, 'but for what the limiter does').lessThan(0.02);
    expect(mix(promo([clip('a', 'inner', 24, { sound: undefined })]), { inner }).every((v) => v === 0)).equal(true);
  });

  it('a cut that comes round to itself is heard once', () => {
    const round = promo([clip('a', 'round', 24)], { sounds: [newKitSound('tap', 'hit', 6)] });
    const once = mix({ ...round, clips: [{ ...round.clips[0], sound: undefined }] }, { round });
    expect([...mix(round, { round }).subarray(0, 30_000)]).deep.equal([...once.subarray(0, 30_000)]);
  });

  it('says which files it is heard with, and how far', () => {
    const outer = promo([clip('a', 'inner', 24), clip('b', 'film', 24), clip('c', 'other', 24, { sound: undefined })]);
    const needed = soundFilesOf(outer, { inner }, RATE);
    expect([...needed.keys()].sort()).deep.equal([HASH, OTHER].sort());
    expect(needed.get(HASH)).equal(10);
    expect(needed.get(OTHER)).closeTo(2, 1e-9);
    expect(heardOfCut(inner)).equal(true);
    expect(heardOfCut(outer)).equal(true);
    expect(heardOfCut(promo([clip('a', 'film', 24, { sound: undefined })]))).equal(false);
  });

  it('clips that are nested are heard in their cut, as they were', () => {
    const outer = promo([clip('a', 'film', 24), clip('b', 'film', 24, { start: 60 }), clip('c', 'film', 24)]);
    const nesting = nestItems(outer, ['a', 'b'], 'Part')!;
    const nested = runCommand(outer, nesting.place('part', 'n'));
    expect(nested.clips[0].sound).deep.equal(SOUND);
    const file = new Map([[HASH, tone(330)]]);
    const before = soundTrack(outer, RATE, null, SAMPLE_RATE, file).left;
    const after = soundTrack(nested, RATE, null, SAMPLE_RATE, file, { part: nesting.cut }).left;
    // Within each clip, away from where sounds come and go.
    for (const i of [12_000, 36_000, 60_000, 84_000, 120_000]) expect(after[i]).closeTo(before[i], 1e-3);
  });
});

describe('promo: documents with sounds of clips', () => {
  it('are sound, and the sound is pasted like other attributes', () => {
    const document = promo([clip('a', 'film', 24), clip('b', 'film', 24, { sound: undefined })]);
    const pasted = runCommand(document, copyClipAttributes('a', ['b'], ['sound']));
    expect(pasted.clips[1].sound).deep.equal(SOUND);
    expect(validateDocument('promo', pasted)).deep.equal(pasted);
    const wrong = { ...document, clips: [clip('a', 'film', 24, { sound: { gain: 90, pitch: 'kept' } })] };
    expect(() => validateDocument('promo', wrong)).throw(/Gain/);
  });
});

describe('promo: a clip that is carried over the picture and back', () => {
  it('keeps its sound', () => {
    const document = promo([clip('a', 'film', 24), clip('b', 'film', 24, { sound: { gain: -3, pitch: 'follows' } })]);
    const over = clipToOverlay(document, 'b', 'o').reduce((now, step) => runCommand(now, step), document);
    expect(over.overlays[0].sound).deep.equal({ gain: -3, pitch: 'follows' });
    const back = overlayToClip(over, 'o', 'c', 'd').reduce((now, step) => runCommand(now, step), over);
    expect(back.clips[1].sound).deep.equal({ gain: -3, pitch: 'follows' });
  });
});

describe('a sound read at other places', () => {
  it('what would be too high for its rate is left out', () => {
    const high = tone(15_000);
    const fast = readAlong(high, 48_000, (i) => 1000 + i * 2).left;
    const slow = readAlong(high, 48_000, (i) => 1000 + i).left;
    const level = (sound: Float32Array): number => Math.max(...sound.subarray(1000, 40_000).map(Math.abs));
    expect(level(slow)).closeTo(0.4, 0.01);
    // 30 kHz would be heard as 18 kHz.
    expect(level(fast)).lessThan(0.01);
  });
});
