import { expect } from 'chai';
import { bringMusic, changeMusic, newPromo, runCommand } from '@tender-orbit/core/document';
import {
  decibelsToGain,
  hallResponse,
  limitAhead,
  loudnessCourse,
  measureLoudness,
  ringOut,
  SAMPLE_RATE,
  silence,
  truePeak,
  type Sound,
} from '@tender-orbit/core/audio';
import { ringStart, soundTrack } from '@tender-orbit/core/promo';

/** Sines one after the other, [dBFS, seconds], in both channels. */
function sines(parts: ReadonlyArray<readonly [db: number, seconds: number]>, hertz = 1000): Sound {
  const sound = silence(Math.round(parts.reduce((n, [, s]) => n + s, 0) * SAMPLE_RATE));
  let at = 0;
  for (const [db, seconds] of parts)
    for (const end = at + Math.round(seconds * SAMPLE_RATE); at < end; at++)
      sound.left[at] = sound.right[at] = decibelsToGain(db) * Math.sin((2 * Math.PI * hertz * at) / SAMPLE_RATE);
  return sound;
}
const integrated = (parts: ReadonlyArray<readonly [number, number]>): number =>
  measureLoudness(sines(parts)).integrated;
const rms = (values: Float32Array, from: number, to: number): number =>
  Math.sqrt(
    values.slice(from * SAMPLE_RATE, to * SAMPLE_RATE).reduce((n, v) => n + v * v, 0) / ((to - from) * SAMPLE_RATE),
  );

describe('loudness', () => {
  it('a sine of 997 Hz at full scale in one channel is -3.01 LUFS (BS.1770)', () => {
    const sound = sines([[0, 5]], 997);
    sound.right.fill(0);
    expect(measureLoudness(sound).integrated).closeTo(-3.01, 0.02);
  });

  it('the compliance signals 1 to 5 of EBU Tech 3341 measure what they are to, within 0.1 LU', () => {
    expect(integrated([[-23, 20]])).closeTo(-23, 0.1);
    expect(integrated([[-33, 20]])).closeTo(-33, 0.1);
    expect(
      integrated([
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ]),
    ).closeTo(-23, 0.1);
    expect(
      integrated([
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ]),
    ).closeTo(-23, 0.1);
    expect(
      integrated([
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ]),
    ).closeTo(-23, 0.1);
  });

  it('ranges are those of EBU Tech 3342: 10 and 5 LU; the loudest moments are told', () => {
    const of = (parts: ReadonlyArray<readonly [number, number]>) => measureLoudness(sines(parts));
    expect(
      of([
        [-20, 20],
        [-30, 20],
      ]).range,
    ).closeTo(10, 1);
    expect(
      of([
        [-20, 20],
        [-15, 20],
      ]).range,
    ).closeTo(5, 1);
    const loud = of([
      [-40, 3],
      [-20, 1],
      [-40, 3],
    ]);
    expect(loud.momentary).closeTo(-20, 0.1);
    expect(loud.shortTerm).closeTo(-20 - 10 * Math.log10(3), 0.2);
  });

  it('a peak between two samples is found', () => {
    const sound = silence(4800);
    // A quarter of the rate, half way between its peaks: samples are 3 dB below.
    for (let i = 0; i < 4800; i++) sound.left[i] = 0.5 * Math.sin((Math.PI / 2) * i + Math.PI / 4);
    expect(Math.max(...sound.left)).closeTo(0.5 * Math.SQRT1_2, 1e-6);
    expect(truePeak(sound)).closeTo(-6.02, 0.2);
  });

  it('as it goes on: the last 400 ms and the last 3 s', () => {
    const { momentary, shortTerm } = loudnessCourse(
      sines([
        [-40, 4],
        [-20, 4],
      ]),
    );
    expect(momentary).length(80);
    expect(momentary[2]).equal(-Infinity);
    expect(momentary[39]).closeTo(-40, 0.1);
    expect(momentary[43]).closeTo(-20, 0.1);
    // Half of its four steps are loud.
    expect(momentary[41]).closeTo(-20 + 10 * Math.log10(0.505), 0.2);
    expect(shortTerm[28]).equal(-Infinity);
    expect(shortTerm[39]).closeTo(-40, 0.1);
    expect(shortTerm[69]).closeTo(-20, 0.1);
  });

  it('silence is silent, and another rate is refused', () => {
    expect(measureLoudness(silence(SAMPLE_RATE)).integrated).equal(-Infinity);
    expect(() => measureLoudness(silence(100, 44100))).throw(/44100/);
  });
});

describe('the limiter', () => {
  it('keeps every peak below its ceiling, those between samples too', () => {
    const sound = sines([[-30, 0.3]], 12_000);
    for (let i = 4800; i < 7200; i++) {
      // Its samples are 3 dB below its peaks.
      sound.left[i] = 1.8 * Math.sin((Math.PI / 2) * i + Math.PI / 4);
      sound.right[i] = 0.2;
    }
    const before = { left: sound.left.slice(), right: sound.right.slice() };
    const taken = limitAhead(sound, -1);
    expect(truePeak(sound)).within(-1.3, -1);
    expect(taken).within(20 * Math.log10(1.8) + 0.9, 20 * Math.log10(1.8) + 1.4);
    // Both channels go down together; what is well before is as it was, what comes after comes back.
    expect(sound.right[6000] / 0.2).closeTo(sound.left[6000] / before.left[6000], 1e-5);
    expect(sound.left.slice(0, 4500)).deep.equal(before.left.slice(0, 4500));
    expect(sound.left[14_300] / before.left[14_300]).within(0.7, 1);
  });

  it('bends no wave: a loud tone stays a tone', () => {
    const sound = sines([[6, 1]], 441);
    limitAhead(sound, -1);
    // Against the tone as it would be at the ceiling, once the gain has come down.
    const scale = decibelsToGain(-7.02);
    for (let i = 9600; i < 38_400; i += 7)
      expect(sound.left[i]).closeTo(decibelsToGain(6) * scale * Math.sin((2 * Math.PI * 441 * i) / SAMPLE_RATE), 0.02);
  });

  it('leaves what stays below as it is', () => {
    const sound = sines([[-3, 0.2]], 330);
    const before = sound.left.slice();
    expect(limitAhead(sound, -1)).equal(0);
    expect(sound.left).deep.equal(before);
  });
});

describe('ringing out', () => {
  it('a hall dies away by 60 dB in its time, heights first', () => {
    const response = Float32Array.from(hallResponse(2, SAMPLE_RATE, 1));
    const energy = (from: number): number => rms(response, from, from + 0.1);
    expect(20 * Math.log10(energy(1.05) / energy(0.05))).within(-40, -27);
    const rough = (from: number): number => {
      const part = response.slice(from * SAMPLE_RATE, (from + 0.1) * SAMPLE_RATE);
      return part.slice(1).reduce((n, v, i) => n + (v - part[i]) ** 2, 0) / part.reduce((n, v) => n + v * v, 0);
    };
    expect(rough(1)).below(rough(0.05) / 2);
  });

  it('what stops rings on as loud as it was, dies away, and nothing clicks', () => {
    const sound = sines([[-12, 4]], 220);
    const before = rms(sound.left, 1.5, 1.9);
    ringOut(sound, 2 * SAMPLE_RATE, 1.5);
    expect(rms(sound.left, 2.05, 2.25) / before).within(0.5, 1.3);
    expect(rms(sound.left, 3.4, 3.5) / before).below(0.02);
    const steps = (from: number, to: number): number => {
      let most = 0;
      for (let i = from * SAMPLE_RATE + 1; i < to * SAMPLE_RATE; i++)
        most = Math.max(most, Math.abs(sound.left[i] - sound.left[i - 1]));
      return most;
    };
    expect(steps(1.99, 2.1)).below(steps(1, 1.5) * 1.6);
    const left = sound.left.slice(2.2 * SAMPLE_RATE);
    expect(left).not.deep.equal(sound.right.slice(2.2 * SAMPLE_RATE));
  });

  it('the music of a promo stops just after a beat, and comes to a loudness below -1 dBTP', () => {
    const rate = { num: 24, den: 1 };
    let promo = { ...newPromo('P', 64, 64), clips: [{ id: 'a', take: '', start: 0, length: 24 * 6 }] };
    promo = runCommand(promo, bringMusic({ asset: 'a'.repeat(64), name: 'Heath' })) as typeof promo;
    promo = runCommand(promo, changeMusic('Ring', { tempo: 120, ring: 2.2 })) as typeof promo;
    expect(ringStart(promo, rate)).closeTo(4 + 0.12, 1e-9);
    const music = sines([[-20, 10]], 330);
    const rung = soundTrack(promo, rate, music, SAMPLE_RATE);
    expect(rung.left.length).equal(6 * SAMPLE_RATE);
    expect(rms(rung.left, 5.8, 6)).below(rms(rung.left, 3, 4) * 0.1);
    const level = (loudness: number) =>
      measureLoudness(soundTrack(runCommand(promo, changeMusic('Loudness', { loudness })), rate, music, SAMPLE_RATE));
    expect(level(-23).integrated).closeTo(-23, 0.1);
    const loud = level(-1);
    expect(loud.truePeak).closeTo(-1, 0.05);
    expect(loud.integrated).below(-1);
    // Single peaks are limited for it: without them the tone is 8 dB louder than they would let it be.
    const spiky = { ...music, left: music.left.slice(), right: music.right.slice() };
    for (let i = 1000; i < 4 * SAMPLE_RATE; i += 24_000) spiky.left[i] = spiky.right[i] = 0.6;
    const at = (loudness: number) =>
      measureLoudness(soundTrack(runCommand(promo, changeMusic('Loudness', { loudness })), rate, spiky, SAMPLE_RATE));
    const limited = at(-13);
    expect(limited.integrated).closeTo(-13, 0.2);
    expect(limited.truePeak).within(-1.2, -0.98);
  });
});
