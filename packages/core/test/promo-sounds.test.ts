import { expect } from 'chai';
import {
  addSounds,
  changeSound,
  changeSource,
  deleteSound,
  newFileSound,
  newKitSound,
  newPromo,
  newTitle,
  newTransition,
  noBeats,
  retimePromo,
  runCommand,
  validateDocument,
  type MusicUse,
  type PromoDocument,
  type PromoSound,
} from '@tender-orbit/core/document';
import { decibelsToGain, SAMPLE_RATE, silence, SOUND_KIT, type Sound } from '@tender-orbit/core/audio';
import { kitSoundOf, soundsForCut, soundSpan, soundTrack } from '@tender-orbit/core/promo';

const RATE = { num: 24, den: 1 };
const HASH = 'b'.repeat(64);
/** Two seconds of pictures. */
const promo = (values: Partial<PromoDocument> = {}): PromoDocument => ({
  ...newPromo('Launch', 320, 180),
  clips: [{ id: 'a', take: '', start: 0, length: 48 }],
  ...values,
});
const music = (values: Partial<MusicUse> = {}): MusicUse => ({
  ...{ asset: 'a'.repeat(64), name: 'x', trim: 0, gain: 0, fadeIn: 0, fadeOut: 0, tempo: 120, firstBeat: 0 },
  ...noBeats(),
  ...values,
});
/** A steady level. */
function level(value: number, seconds = 3): Sound {
  const sound = silence(Math.round(seconds * SAMPLE_RATE));
  sound.left.fill(value);
  sound.right.fill(value);
  return sound;
}
const fileSound = (at: number, values: Partial<PromoSound> = {}): PromoSound => ({
  ...newFileSound('s', { asset: HASH, name: 'tap.wav', seconds: 0.5 }, at),
  fadeOut: 0,
  ...values,
});
const track = (document: PromoDocument, under: Sound | null = null, file = level(0.25)): Sound =>
  soundTrack(document, RATE, under, SAMPLE_RATE, new Map([[HASH, file]]));

describe('promo: sounds', () => {
  it('a file begins at its frame, is as long as its stretch, and has its gain', () => {
    const { left } = track(promo({ sounds: [fileSound(12, { gain: -6 })] }));
    const from = SAMPLE_RATE / 2;
    expect(left.length).equal(2 * SAMPLE_RATE);
    expect(left[from - 1]).equal(0);
    expect(left[from]).closeTo(0.25 * decibelsToGain(-6), 1e-6);
    expect(left[from + SAMPLE_RATE / 2 - 1]).closeTo(0.25 * decibelsToGain(-6), 1e-6);
    expect(left[from + SAMPLE_RATE / 2]).equal(0);
  });

  it('a made sound has its accent on its frame, also where it begins before the promo does', () => {
    const sound = newKitSound('w', 'whoosh', 24);
    const { from, to } = soundSpan(sound, RATE);
    expect(from).closeTo(1 - SOUND_KIT.whoosh.accent * SOUND_KIT.whoosh.seconds, 1e-9);
    expect(to - from).closeTo(SOUND_KIT.whoosh.seconds, 1e-9);
    const early = track(promo({ sounds: [newKitSound('w', 'whoosh', 0)] }));
    const made = kitSoundOf({ kind: 'whoosh', seconds: 0.9, pitch: 0, weight: 0.5, seed: 1 }, SAMPLE_RATE);
    const cut = Math.round(SOUND_KIT.whoosh.accent * 0.9 * SAMPLE_RATE);
    expect(early.left[0]).closeTo(made.left[cut], 1e-6);
    expect(early.left[1000]).closeTo(made.left[cut + 1000], 1e-6);
  });

  it('goes from one side to the other with the same power, and fades', () => {
    const { left, right } = track(promo({ sounds: [fileSound(0, { pan: -1, panTo: 1, fadeIn: 0.1 })] }));
    const last = SAMPLE_RATE / 2 - 1;
    const [early, middle] = [Math.round(0.1 * SAMPLE_RATE), SAMPLE_RATE / 4];
    expect(left[0]).equal(0);
    expect(left[early]).above(right[early]);
    expect(left[middle]).closeTo(right[middle], 1e-4);
    expect(left[last]).closeTo(0, 1e-4);
    for (const i of [early, middle, last])
      expect(left[i] * left[i] + right[i] * right[i], String(i)).closeTo(2 * 0.25 * 0.25, 1e-4);
  });

  it('gain and pan follow keys, whose frames count from its accent, and go with it', () => {
    const keyed = (path: string, from: number, to: number) => ({
      ...{ thing: 's', path },
      keys: [
        { frame: 0, value: from, ease: 'linear' as const },
        { frame: 12, value: to, ease: 'linear' as const },
      ],
    });
    const of = promo({ sounds: [fileSound(12)], tracks: [keyed('gain', 0, -12)] });
    const { left } = track(of);
    const at = (seconds: number): number => left[Math.round(seconds * SAMPLE_RATE)];
    expect(at(0.5)).closeTo(0.25, 1e-5);
    expect(at(0.75)).closeTo(0.25 * decibelsToGain(-6), 1e-4);
    expect(at(0.99)).closeTo(0.25 * decibelsToGain(-11.76), 1e-4);
    const panned = track(promo({ sounds: [fileSound(12, { panTo: 1 })], tracks: [keyed('pan', 1, -1)] }));
    expect(panned.left[SAMPLE_RATE / 2]).closeTo(0, 1e-5);
    expect(panned.right[Math.round(0.99 * SAMPLE_RATE)]).below(0.02);
    // A made sound begins before its accent: there its first key holds.
    const made = promo({ sounds: [{ ...newKitSound('s', 'whoosh', 24), fadeIn: 0 }], tracks: [keyed('gain', -20, 0)] });
    const plain = track(promo({ sounds: [{ ...newKitSound('s', 'whoosh', 24), fadeIn: 0 }] }));
    const early = Math.round((soundSpan(made.sounds[0], RATE).from + 0.1) * SAMPLE_RATE);
    const loudest = (sound: Sound): number => Math.max(...sound.left.subarray(early, early + 2000).map(Math.abs));
    expect(loudest(track(made)) / loudest(plain)).closeTo(decibelsToGain(-20), 1e-3);
    expect(runCommand(of, deleteSound('s')).tracks).deep.equal([]);
  });

  it('the music goes down while a sound that ducks it is loud, and comes back', () => {
    const ducking = promo({ music: music(), sounds: [fileSound(12, { duck: 12 })] });
    const { left } = track(ducking, level(0.2));
    expect(left[SAMPLE_RATE / 2 - 1]).closeTo(0.2, 1e-6);
    // In the middle of the sound it is down by all of it.
    expect(left[Math.round(0.75 * SAMPLE_RATE)]).closeTo(0.25 + 0.2 * decibelsToGain(-12), 1e-3);
    const after = left[Math.round(1.3 * SAMPLE_RATE)];
    expect(after).within(0.2 * decibelsToGain(-12), 0.19);
    expect(left[Math.round(1.97 * SAMPLE_RATE)]).closeTo(0.2, 1e-3);
    const calm = track(promo({ music: music(), sounds: [fileSound(12)] }), level(0.2));
    expect(calm.left[Math.round(0.75 * SAMPLE_RATE)]).closeTo(0.45, 1e-6);
  });

  it('one that is off, or whose file is missing, is not heard; without any the music is as it was', () => {
    const bare = track(promo({ music: music() }), level(0.2));
    for (const sounds of [[fileSound(12, { on: false, duck: 12 })], []])
      expect(track(promo({ music: music(), sounds }), level(0.2)).left).deep.equal(bare.left);
    const missing = soundTrack(promo({ sounds: [fileSound(0)] }), RATE, null, SAMPLE_RATE);
    expect(missing.left.every((v) => v === 0)).equal(true);
  });

  it('made again over the same music is the same, and follows what is changed of the music', () => {
    const under = level(0.2);
    const quiet = promo({ music: music({ ring: 0.5 }), sounds: [fileSound(12, { duck: 12 })] });
    const once = track(quiet, under).left;
    expect(track(quiet, under).left).deep.equal(once);
    const [bare, softer] = [0, -6].map((gain) => track(promo({ music: music({ gain }) }), under).left[1000]);
    expect(softer).closeTo(bare * decibelsToGain(-6), 1e-6);
    expect(track(quiet, under).left).deep.equal(once);
  });

  it('together they stay below -1 dB', () => {
    const sounds = [0, 1, 2, 3].map((n) => fileSound(0, { id: `s${n}`, gain: 12 }));
    const { left } = track(promo({ music: music(), sounds }), level(0.8));
    const ceiling = decibelsToGain(-1);
    expect(left.every((v) => Math.abs(v) <= ceiling)).equal(true);
    expect(Math.max(...left.slice(20_000, 30_000))).above(0.98 * ceiling);
  });

  it('count in the loudness that the promo is brought to', () => {
    const quiet = promo({ music: music({ loudness: -30 }), sounds: [fileSound(0, { gain: 6 })] });
    expect(track(quiet, level(0.01)).left[1000]).below(track({ ...quiet, music: music() }, level(0.01)).left[1000]);
  });
});

describe('promo: sounds in documents', () => {
  it('are added, changed, deleted, and keep their times when the rate changes', () => {
    let document = runCommand(promo(), addSounds([newKitSound('h', 'hit', 24), fileSound(10)], 'Add'));
    expect(validateDocument('promo', JSON.parse(JSON.stringify(document)))).deep.equal(document);
    document = runCommand(document, changeSound('h', 'Gain', { gain: -3 }));
    document = runCommand(document, changeSource('h', 'Pitch', { pitch: 5, trim: 9 }));
    const [hit] = document.sounds;
    expect(hit.gain).equal(-3);
    expect(hit.source).deep.equal({
      kind: 'made',
      sound: { kind: 'hit', seconds: 1.6, pitch: 5, weight: 0.5, seed: 1 },
    });
    document = runCommand(document, changeSource('s', 'Begin', { trim: 0.2, pitch: 5 }));
    expect(document.sounds[1].source).deep.equal({ kind: 'file', asset: HASH, trim: 0.2, seconds: 0.5 });
    expect(runCommand(document, retimePromo(2)).sounds.map(({ at }) => at)).deep.equal([48, 20]);
    expect(runCommand(document, deleteSound('h')).sounds.map(({ id }) => id)).deep.equal(['s']);
  });

  it('refuse what cannot be', () => {
    const [sound] = [newKitSound('h', 'hit', 24)];
    const refused = (values: object): (() => unknown) => {
      return () => validateDocument('promo', promo({ sounds: [{ ...sound, ...values }] }));
    };
    expect(refused({ pan: 2 })).throw(/Pan must be a number between -1 and 1/);
    expect(
      refused({ source: { kind: 'made', sound: { kind: 'bang', seconds: 1, pitch: 0, weight: 0, seed: 1 } } }),
    ).throw(/Sound must be one of/);
    expect(refused({ source: { kind: 'file', asset: '../x', trim: 0, seconds: 1 } })).throw(/not the name of a stored/);
    expect(refused({ at: -1 })).throw(/Accent on frame/);
  });
});

describe('promo: sounding the cut', () => {
  const ids = (): (() => string) => {
    let n = 0;
    return () => `x${n++}`;
  };
  const cut = promo({
    clips: [
      { id: 'a', take: '', start: 0, length: 48 },
      { id: 'b', take: '', start: 0, length: 48, into: { ...newTransition('whip', 10), angle: 180 } },
      { id: 'c', take: '', start: 0, length: 48, into: newTransition('dissolve', 10) },
      { id: 'd', take: '', start: 0, length: 48, into: newTransition('flash', 4) },
    ],
    titles: [newTitle('t', { start: 60, length: 30 })],
    music: music({
      sections: [
        { from: 0, to: 5, kind: 'quiet' },
        { from: 5, to: 8, kind: 'drop' },
      ],
    }),
  });

  it('a whoosh goes the way of a transition, a flash hits, a drop is led up to, a title taps', () => {
    const sounds = soundsForCut(cut, RATE, ids());
    const at = (frame: number): string[] =>
      sounds.flatMap((s) => (s.at === frame && s.source.kind === 'made' ? [s.source.sound.kind] : []));
    expect(at(48)).deep.equal(['whoosh']);
    const whoosh = sounds.find((s) => s.at === 48)!;
    expect([whoosh.pan, whoosh.panTo]).deep.equal([0.6, -0.6]);
    expect(at(96)).deep.equal([]);
    expect(at(144)).deep.equal(['hit']);
    expect(at(120)).deep.equal(['hit', 'riser']);
    expect(at(70)).deep.equal(['glass-tap']);
    expect(validateDocument('promo', { ...cut, sounds }))
      .property('sounds')
      .length(5);
  });

  it('asked again it adds nothing', () => {
    const sounds = soundsForCut(cut, RATE, ids());
    expect(soundsForCut({ ...cut, sounds }, RATE, ids())).deep.equal([]);
  });
});
