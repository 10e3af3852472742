import { expect } from 'chai';
import {
  applyStrip,
  bell,
  compress,
  filtered,
  joinPieces,
  makeTrack,
  reduction,
  SAMPLE_RATE,
  shelf,
  silence,
  stretchSound,
  TONE,
  type Section,
  type Sound,
} from '@tender-orbit/core/audio';
import {
  bringMusic,
  changeMusic,
  changeStrip,
  newFileSound,
  newPromo,
  newStrip,
  noBeats,
  runCommand,
  validateDocument,
  type MusicUse,
  type PromoDocument,
} from '@tender-orbit/core/document';
import {
  editedMusic,
  editedSeconds,
  fileSeconds,
  fitMusic,
  keepLooping,
  loopMusic,
  promoBeats,
  promoSections,
  soundStems,
  soundTrack,
} from '@tender-orbit/core/promo';

const RATE = 16000;
const RATE_24 = { num: 24, den: 1 };
const tone = (frequency: number, seconds: number, rate = RATE, level = 0.5): Sound => {
  const channel = Float32Array.from(
    { length: Math.round(seconds * rate) },
    (_, i) => level * Math.sin((2 * Math.PI * frequency * i) / rate),
  );
  return { sampleRate: rate, left: channel, right: channel.slice() };
};
const rms = (channel: Float32Array, from = 0, to = channel.length): number =>
  Math.sqrt(channel.subarray(from, to).reduce((sum, v) => sum + v * v, 0) / (to - from));
/** How often a tone rises through zero in a second. */
function pitch({ left, sampleRate }: Sound): number {
  const part = left.subarray(sampleRate / 4, left.length - sampleRate / 4);
  let count = 0;
  for (let i = 1; i < part.length; i++) if (part[i - 1] < 0 && part[i] >= 0) count++;
  return (count * sampleRate) / part.length;
}
const use = (values: Partial<MusicUse> = {}): MusicUse => ({
  ...{ asset: 'a'.repeat(64), name: 'Heath', trim: 0, gain: 0, fadeIn: 0, fadeOut: 0, tempo: 120, firstBeat: 0 },
  ...noBeats(),
  ...values,
});

describe('music: bars cut and repeated', () => {
  /** Eight bars of two seconds: A B A B C D A E, each a tone of its own, the second A the very same samples. */
  const tones: Record<string, number> = { A: 220, B: 330, C: 440, D: 550, E: 110 };
  const music = silence(16 * RATE, RATE);
  [...'ABABCDAE'].forEach((name, i) => {
    const { left } = tone(tones[name], 2);
    music.left.set(left, i * 2 * RATE);
    music.right.set(left, i * 2 * RATE);
  });
  const bars = use({ beats: Array.from({ length: 32 }, (_, i) => i / 2) });
  const names = (pieces: ReturnType<typeof fitMusic>): string =>
    (pieces ?? [{ from: 0, to: 16 }])
      .flatMap(({ from, to }) => Array.from({ length: Math.round((to - from) / 2) }, (_, i) => from / 2 + i))
      .map((bar) => 'ABABCDAE'[bar])
      .join('');

  it('are cut where what comes sounds like what would have come, and the end stays', () => {
    expect(names(fitMusic(bars, music, 12))).equal('ABCDAE');
    expect(names(fitMusic(bars, music, 8))).equal('ABAE');
    expect(fitMusic(bars, music, 16.4)).equal(null);
  });

  it('come again where they sound alike, as often as it takes', () => {
    const longer = names(fitMusic(bars, music, 20));
    expect(longer).length(10);
    expect(longer.startsWith('AB')).equal(true);
    expect(longer.endsWith('E')).equal(true);
    expect(names(fitMusic(bars, music, 60))).length(30);
  });

  it('begin again at the first bar each time that they are over, until the cut is', () => {
    const pieces = loopMusic(bars, music, 37)!;
    expect(names(pieces)).equal('ABABCDAE'.repeat(3));
    expect(loopMusic(bars, music, 16)).equal(null);
    // From where it is trimmed, at its stretch, and not what comes before its first bar.
    const late = use({ beats: Array.from({ length: 28 }, (_, i) => 2 + i / 2), trim: 6, stretch: 1.25 });
    expect(loopMusic(late, music, 30)).deep.equal([
      { from: 0, to: 16 },
      { from: 2, to: 16 },
    ]);
    expect(() => loopMusic(use({ tempo: 0 }), music, 60)).throw(/Too few bars/);
    // However long the cut becomes: as many rounds as it takes, and one at the least.
    const looping = use({ ...late, pieces: loopMusic(late, music, 30)!, loops: true });
    const roundsAt = (seconds: number): number => {
      keepLooping(looping, seconds);
      expect(looping.pieces!.slice(1).every(({ from, to }) => from === 2 && to === 16)).equal(true);
      return looping.pieces!.length - 1;
    };
    // 16 s and 14 s a round, a quarter slower, from 6 s on.
    expect([10, 31.5, 31.6, 49, 49.1, 5].map(roundsAt)).deep.equal([1, 1, 2, 2, 3, 1]);
    const fixed = use({ pieces: [{ from: 0, to: 4 }] });
    keepLooping(fixed, 60);
    expect(fixed.pieces).length(1);
    // A join of what is the same is the music itself.
    const [looped] = [joinPieces(music, pieces).left];
    expect(looped.subarray(20 * RATE, 24 * RATE)).deep.equal(music.left.subarray(4 * RATE, 8 * RATE));
  });

  it('a join of bars that are the same is not heard: not a sample differs', () => {
    const joined = joinPieces(music, [
      { from: 0, to: 4 },
      { from: 8, to: 16 },
    ]);
    expect(joined.left).length(12 * RATE);
    const same = joinPieces(music, [
      { from: 0, to: 2 },
      { from: 6, to: 16 },
    ]);
    // Bar B of the first pair goes on as bar B of the second.
    expect(same.left.subarray(2 * RATE, 4 * RATE)).deep.equal(music.left.subarray(2 * RATE, 4 * RATE));
    // Others go into each other without a step.
    const step = (channel: Float32Array): number => {
      let most = 0;
      for (let i = 4 * RATE - 50; i < 4 * RATE + 800; i++) most = Math.max(most, Math.abs(channel[i] - channel[i - 1]));
      return most;
    };
    expect(step(joined.left)).below(0.5 * 2 * Math.PI * (440 / RATE) * 1.6);
  });

  it('where nothing is known of its bars that is said', () => {
    expect(() => fitMusic(use({ tempo: 0 }), music, 8)).throw(/Too few bars/);
  });

  it('beats and parts go where their bars are', () => {
    const pieces = fitMusic(bars, music, 12)!;
    const sections = [{ from: 8, to: 12, kind: 'drop' as const }];
    const promo: PromoDocument = {
      ...newPromo('P', 64, 64),
      music: { ...bars, pieces, sections, trim: 1, stretch: 1.25 },
    };
    const grid = promoBeats(promo)!;
    expect(grid.times).length(24);
    expect(grid.times![0]).closeTo(-1, 1e-9);
    expect(grid.times![2]).closeTo(1.25 - 1, 1e-9);
    // C begins the third bar of what is left.
    expect(promoSections(promo)[0].from).closeTo(4 * 1.25 - 1, 1e-9);
    const inverse = editedSeconds(promo.music!, 9.3)[0];
    expect(fileSeconds(promo.music!, inverse)).closeTo(9.3, 1e-9);
    expect(validateDocument('promo', promo).music).deep.equal(promo.music);
  });

  it('of made music are fitted without its end being lost', () => {
    const { sound, beats } = makeTrack(
      { style: 'heath', mood: 'warm', energy: 'steady', tempo: 120, seconds: 16, seed: 2 },
      RATE,
    );
    const made = use({ beats });
    const pieces = fitMusic(made, sound, 12)!;
    const edited = editedMusic(sound, { pieces });
    expect(edited.left.length / RATE).closeTo(sound.left.length / RATE - 4, 1e-3);
    expect(edited.left.subarray(-RATE)).deep.equal(sound.left.subarray(-RATE));
    // It is made once.
    expect(editedMusic(sound, { pieces })).equal(edited);
  });
});

describe('music: stretch', () => {
  for (const factor of [0.8, 1.3])
    it(`${factor} times as long it keeps its pitch and loudness`, () => {
      const source = tone(330, 3);
      const made = stretchSound(source, factor);
      expect(made.left).length(Math.round(3 * factor * RATE));
      expect(pitch(made)).closeTo(330, 2);
      const part = [RATE, 2 * RATE] as const;
      expect(rms(made.left, ...part) / rms(source.left, ...part)).within(0.93, 1.07);
    });
});

describe('mixer', () => {
  /** Gain of a section at a frequency, measured on a long tone, in decibels. */
  const gainAt = (section: Section, frequency: number): number => {
    const { left } = tone(frequency, 1, SAMPLE_RATE);
    const before = rms(left, 24000);
    filtered(left, section);
    return 20 * Math.log10(rms(left, 24000) / before);
  };

  it('shelves and bells have their gain where they are to have it, and none elsewhere', () => {
    const low = shelf('low', TONE.low, 9, SAMPLE_RATE);
    expect(gainAt(low, 20)).closeTo(9, 0.2);
    expect(gainAt(low, TONE.low)).closeTo(4.5, 0.1);
    expect(gainAt(low, 4000)).closeTo(0, 0.1);
    const high = shelf('high', TONE.high, -12, SAMPLE_RATE);
    expect(gainAt(high, 20000)).closeTo(-12, 0.3);
    expect(gainAt(high, TONE.high)).closeTo(-6, 0.1);
    expect(gainAt(high, 200)).closeTo(0, 0.1);
    const middle = bell(TONE.middle, TONE.q, 6, SAMPLE_RATE);
    expect(gainAt(middle, TONE.middle)).closeTo(6, 0.01);
    expect(gainAt(middle, 30)).closeTo(0, 0.1);
  });

  it('compresses by its ratio above its threshold, with a soft knee, and nothing below', () => {
    expect([-40, -23.01].map((level) => reduction(level, -20, 4))).deep.equal([0, 0]);
    expect(reduction(-8, -20, 4)).closeTo(9, 1e-9);
    expect(reduction(-20, -20, 4)).closeTo((0.75 * 9) / 12, 1e-9);
    const loud = tone(1000, 1, SAMPLE_RATE, 0.5);
    compress(loud, { ...newStrip(), threshold: -18, ratio: 4, attack: 0.001, release: 0.5 });
    const peak = loud.left.subarray(24000).reduce((a, v) => Math.max(a, Math.abs(v)), 0);
    // -6.02 dBFS is 11.98 dB over: a quarter of that is left.
    expect(20 * Math.log10(peak)).closeTo(-18 + 11.98 / 4, 0.3);
  });

  it('a row that changes nothing changes nothing; pan, gain and mute do what they say', () => {
    const source = tone(500, 0.2);
    const through = (values: Partial<ReturnType<typeof newStrip>>): Sound => {
      const copy = { ...source, left: source.left.slice(), right: source.right.slice() };
      applyStrip(copy, { ...newStrip(), ...values });
      return copy;
    };
    expect(rms(through({}).left)).closeTo(rms(source.left), 1e-7);
    expect(rms(through({ gain: -6.0206 }).left) / rms(source.left)).closeTo(0.5, 1e-4);
    expect(rms(through({ pan: 1 }).left)).below(1e-6);
    expect(rms(through({ muted: true }).right)).equal(0);
    const rung = through({ hall: 0.5 });
    expect(rms(rung.left)).above(1.02 * rms(source.left));
  });

  it('rows of a promo go through their own, then both through one, kept with it', () => {
    const music = tone(200, 2, SAMPLE_RATE, 0.1);
    const file = tone(900, 1, SAMPLE_RATE, 0.1);
    const asset = 'b'.repeat(64);
    const base: PromoDocument = {
      ...newPromo('P', 64, 64),
      clips: [{ id: 'c', take: 't', start: 0, length: 48 }],
      music: use(),
      sounds: [{ ...newFileSound('s', { asset, name: 'S', seconds: 1 }, 0), fadeOut: 0 }],
    };
    const stems = (promo: PromoDocument) => soundStems(promo, RATE_24, music, SAMPLE_RATE, new Map([[asset, file]]));
    const plain = stems(base);
    expect(plain.out.left[30000]).closeTo(plain.music.left[30000] + plain.sounds.left[30000], 1e-6);
    const mixed = runCommand(
      runCommand(base, changeStrip('music', 'Mute', { muted: true })),
      changeStrip('all', 'Gain', { gain: 6.0206 }),
    );
    expect(validateDocument('promo', mixed).mixer).deep.equal(mixed.mixer);
    const quiet = stems(mixed);
    expect(rms(quiet.music.left)).equal(0);
    expect(rms(quiet.out.left, 10000, 40000) / rms(plain.sounds.left, 10000, 40000)).closeTo(2, 1e-3);
  });
});

describe('music: keys', () => {
  const promo = (tracks: PromoDocument['tracks'], values: Partial<MusicUse> = {}): PromoDocument => ({
    ...newPromo('P', 64, 64),
    clips: [{ id: 'c', take: 't', start: 0, length: 48 }],
    music: use(values),
    tracks,
  });
  const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' as const });

  it('of its gain are heard when they are, in decibels', () => {
    const music = tone(400, 2, SAMPLE_RATE, 0.2);
    const out = soundTrack(
      promo([{ thing: 'music', path: 'gain', keys: [key(0, 0), key(48, -24)] }]),
      RATE_24,
      music,
      SAMPLE_RATE,
    );
    const at = (seconds: number): number => rms(out.left, seconds * SAMPLE_RATE - 600, seconds * SAMPLE_RATE + 600);
    expect(20 * Math.log10(at(1.5) / at(0.5))).closeTo(-12, 0.1);
  });

  it('of its low-pass open and close it; a sound is swept and reversed by itself', () => {
    const high = tone(6000, 2, SAMPLE_RATE, 0.2);
    const tracks = [{ thing: 'music', path: 'lowPass', keys: [key(0, 300), key(24, 300), key(30, 20000)] }];
    const { left } = soundTrack(promo(tracks), RATE_24, high, SAMPLE_RATE);
    expect(rms(left, 20000, 40000)).below(0.01 * rms(left, 70000, 90000));
    const asset = 'b'.repeat(64);
    const click = silence(SAMPLE_RATE);
    click.left.fill(0.5, 0, 2000);
    const sound = { ...newFileSound('s', { asset, name: 'S', seconds: 1 }, 0), fadeOut: 0 };
    const heard = (values: object): Float32Array => {
      const document = { ...promo([]), music: null, sounds: [{ ...sound, ...values }] };
      return soundTrack(document, RATE_24, null, SAMPLE_RATE, new Map([[asset, click]])).left;
    };
    expect(heard({})[1000]).above(0.4);
    expect(heard({ reverse: true })[1000]).equal(0);
    expect(heard({ reverse: true })[SAMPLE_RATE - 1000]).above(0.4);
    const swept = heard({ sweep: [40, 40] });
    expect(swept[40]).below(0.1);
  });

  it('another piece of music has no edits of the last', () => {
    const edited = runCommand(promo([]), changeMusic('Stretch', { stretch: 1.5, pieces: [{ from: 0, to: 1 }] }));
    const fresh = runCommand(edited, bringMusic({ asset: 'c'.repeat(64), name: 'Other' }));
    expect(fresh.music).not.have.any.keys('stretch', 'pieces');
  });
});
