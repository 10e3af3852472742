import { expect } from 'chai';
import {
  addRoom,
  addVoice,
  decibelsToGain,
  kick,
  mixMusic,
  noise,
  normalise,
  noteFrequency,
  pad,
  peaks,
  SAMPLE_RATE,
  silence,
  writeWav,
} from '@tender-orbit/core/audio';

/** A second of a full-scale square wave, so that levels can be read off directly. */
function loud(seconds = 1): ReturnType<typeof silence> {
  const sound = silence(seconds * SAMPLE_RATE);
  for (let i = 0; i < sound.left.length; i++) sound.left[i] = sound.right[i] = i % 2 ? 0.5 : -0.5;
  return sound;
}
const plain = { trim: 0, gain: 0, fadeIn: 0, fadeOut: 0 };
const level = (v: number): number => Math.abs(v);

describe('audio: mixing', () => {
  it('passes the samples through untouched without gain, trim or fade', () => {
    const music = loud();
    expect(mixMusic(music, plain, SAMPLE_RATE, SAMPLE_RATE).left).deep.equal(music.left);
  });

  it('is exactly as long as asked, silent past the end of the music', () => {
    const out = mixMusic(loud(), { ...plain, trim: 0.75 }, SAMPLE_RATE, SAMPLE_RATE);
    expect(out.left.length).equal(SAMPLE_RATE);
    expect(level(out.left[SAMPLE_RATE / 4 - 1])).equal(0.5);
    expect(level(out.left[SAMPLE_RATE / 4])).equal(0);
  });

  it('lowers by 6.02 dB to half', () => {
    expect(decibelsToGain(-6.0206)).closeTo(0.5, 1e-6);
    expect(level(mixMusic(loud(), { ...plain, gain: -6.0206 }, 100, SAMPLE_RATE).left[50])).closeTo(0.25, 1e-6);
  });

  it('fades with equal power: half way is -3 dB', () => {
    const out = mixMusic(loud(2), { ...plain, fadeIn: 0.5, fadeOut: 1 }, 2 * SAMPLE_RATE, SAMPLE_RATE);
    expect(level(out.left[0])).equal(0);
    expect(level(out.left[SAMPLE_RATE / 4])).closeTo(0.5 * Math.SQRT1_2, 1e-3);
    expect(level(out.left[SAMPLE_RATE])).closeTo(0.5, 1e-3);
    expect(level(out.left[1.5 * SAMPLE_RATE])).closeTo(0.5 * Math.SQRT1_2, 1e-3);
    expect(level(out.left[2 * SAMPLE_RATE - 1])).closeTo(0, 1e-3);
  });

  it('never clips, however loud: it bends above -1 dB and stays in order', () => {
    const out = mixMusic(loud(), { ...plain, gain: 24 }, 100, SAMPLE_RATE);
    expect(out.left.every((v) => Math.abs(v) <= 1)).equal(true);
    const ramp = silence(1000);
    for (let i = 0; i < 1000; i++) ramp.left[i] = i / 500;
    const bent = mixMusic(ramp, plain, 1000, SAMPLE_RATE).left;
    for (let i = 1; i < 1000; i++) expect(bent[i]).at.least(bent[i - 1]);
  });

  it('refuses music at another rate', () => {
    expect(() => mixMusic({ ...loud(), sampleRate: 44100 }, plain, 10, SAMPLE_RATE)).throw(/44100/);
  });
});

describe('audio: files and pictures of sound', () => {
  it('writes a RIFF WAVE whose header adds up', () => {
    const bytes = writeWav(loud(0.01));
    const view = new DataView(bytes.buffer);
    const word = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
    expect([word(0), word(8), word(12), word(36)]).deep.equal(['RIFF', 'WAVE', 'fmt ', 'data']);
    expect(view.getUint32(4, true)).equal(bytes.length - 8);
    expect(view.getUint32(40, true)).equal(bytes.length - 44);
    expect(view.getUint32(28, true)).equal(SAMPLE_RATE * 4);
    expect(view.getInt16(44, true)).closeTo(-16384, 2);
  });

  it('peaks find the loudest sample of each stretch', () => {
    const sound = silence(SAMPLE_RATE);
    sound.left[1000] = 0.3;
    sound.right[30000] = -0.8;
    const four = peaks(sound, 0, 1, 4);
    expect([...four].map((v) => Number(v.toFixed(2)))).deep.equal([0.3, 0, 0.8, 0]);
  });
});

describe('audio: instruments', () => {
  it('are in tune: A4 is 440 Hz, an octave doubles', () => {
    expect(noteFrequency(69)).equal(440);
    expect(noteFrequency(81)).closeTo(880, 1e-9);
  });

  it('a voice sounds where and as long as it is told, in the place it is panned to', () => {
    const sound = silence(SAMPLE_RATE);
    addVoice(sound, 0.5, 0.1, 1, -1, () => 1);
    expect(sound.left[SAMPLE_RATE / 2 - 1]).equal(0);
    expect(sound.left[SAMPLE_RATE / 2]).closeTo(1, 1e-6);
    expect(Math.abs(sound.right[SAMPLE_RATE / 2])).below(1e-6);
    expect(sound.left[SAMPLE_RATE * 0.6]).equal(0);
  });

  it('noise is the same for the same seed and centred', () => {
    const [a, b] = [noise(5), noise(5)];
    let sum = 0;
    for (let i = 0; i < 20000; i++) {
      const v = a();
      expect(v).equal(b());
      sum += v;
    }
    expect(Math.abs(sum / 20000)).below(0.02);
  });

  it('a kick falls silent, a pad ends softly, a room rings on, and the mix can be brought to a level', () => {
    const drum = kick();
    expect(Math.abs(drum(0.02))).above(0.2);
    expect(Math.abs(drum(2))).below(1e-5);
    const chord = pad(220, 2);
    expect(Math.abs(chord(1.999))).below(0.05);
    const sound = silence(SAMPLE_RATE);
    sound.left[0] = 1;
    addRoom(sound, 0.5);
    expect(sound.left.subarray(4000).some((v) => Math.abs(v) > 1e-4)).equal(true);
    normalise(sound, 0.5);
    expect(Math.max(...sound.left.map(Math.abs))).closeTo(0.5, 1e-6);
    const still = silence(10);
    normalise(still, 0.5);
    expect(still.left.every((v) => v === 0)).equal(true);
  });
});
