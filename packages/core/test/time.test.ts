import { expect } from 'chai';
import {
  beatsBetween,
  checkRate,
  framesToSamples,
  framesToSeconds,
  rateLabel,
  secondsToFrames,
  shortTimecode,
  snapToBeat,
  timecode,
  USUAL_RATES,
} from '@tender-orbit/core/time';

const NTSC30 = { num: 30000, den: 1001 };
const NTSC60 = { num: 60000, den: 1001 };
const FILM = { num: 24, den: 1 };

describe('time: frame rates', () => {
  it('turn frames into seconds and back exactly for every usual rate', () => {
    for (const rate of USUAL_RATES) {
      for (const frame of [0, 1, 1001, 86399])
        expect(secondsToFrames(framesToSeconds(frame, rate), rate)).closeTo(frame, 1e-9);
    }
  });

  it('never let 29.97 drift: an hour of frames is an hour and 3.6 seconds', () => {
    expect(framesToSeconds(30 * 3600, NTSC30)).closeTo(3603.6, 1e-9);
  });

  it('give whole sample counts that add up to the length of the sound', () => {
    expect(framesToSamples(24, FILM, 48000)).equal(48000);
    // SMPTE: at 29.97 five frames hold 8008 samples of 48 kHz.
    expect(framesToSamples(5, NTSC30, 48000)).equal(8008);
  });

  it('are written as people say them', () => {
    expect(USUAL_RATES.map(rateLabel)).deep.equal(['23.976', '24', '25', '29.97', '30', '50', '59.94', '60']);
  });

  it('refuse ratios that are none', () => {
    for (const rate of [
      { num: 0, den: 1 },
      { num: 24, den: 0 },
      { num: 23.976, den: 1 },
      { num: NaN, den: 1 },
    ]) {
      expect(() => checkRate(rate)).throw(/frame rate/i);
    }
  });
});

describe('time: timecode', () => {
  it('counts hours, minutes, seconds and frames', () => {
    expect(timecode(0, FILM)).equal('00:00:00:00');
    expect(timecode(24 * 3661 + 5, FILM)).equal('01:01:01:05');
  });

  it('drops the numbers of SMPTE ST 12 at 29.97 and 59.94', () => {
    // The standard's own examples: the minute starts at frame number 2, every tenth minute at 0.
    expect(timecode(1799, NTSC30)).equal('00:00:59;29');
    expect(timecode(1800, NTSC30)).equal('00:01:00;02');
    expect(timecode(17981, NTSC30)).equal('00:09:59;29');
    expect(timecode(17982, NTSC30)).equal('00:10:00;00');
    expect(timecode(107892, NTSC30)).equal('01:00:00;00');
    expect(timecode(3600, NTSC60)).equal('00:01:00;04');
    expect(timecode(215784, NTSC60)).equal('01:00:00;00');
  });

  it('does not drop at 23.976, which has no drop-frame counting', () => {
    expect(timecode(24 * 60, { num: 24000, den: 1001 })).equal('00:01:00:00');
  });

  it('is short under a minute', () => {
    expect(shortTimecode(24 * 3 + 17, FILM)).equal('03:17');
    expect(shortTimecode(24 * 61, FILM)).equal('00:01:01:00');
  });
});

describe('time: beats', () => {
  const grid = { tempo: 96, firstBeat: 0, beatsPerBar: 4 };

  it('fall every 15 frames at 96 beats a minute and 24 frames a second', () => {
    const beats = beatsBetween(grid, FILM, 0, 60);
    expect(beats.map((b) => Math.round(b.frame))).deep.equal([0, 15, 30, 45, 60]);
    expect(beats.map((b) => [b.bar, b.beat])).deep.equal([
      [1, 1],
      [1, 2],
      [1, 3],
      [1, 4],
      [2, 1],
    ]);
  });

  it('do not count before the first downbeat, and keep counting when it lies before the start', () => {
    expect(beatsBetween({ ...grid, firstBeat: 1 }, FILM, 0, 30)[0]).include({ bar: 1, beat: 1 });
    const late = beatsBetween({ ...grid, firstBeat: -2.5 }, FILM, 0, 1);
    expect(late[0]).include({ bar: 2, beat: 1 });
  });

  it('catch a frame only within reach', () => {
    expect(snapToBeat(grid, FILM, 17, 3)).equal(15);
    expect(snapToBeat(grid, FILM, 21, 3)).equal(21);
    expect(snapToBeat(grid, FILM, 28, 3)).equal(30);
  });
});
