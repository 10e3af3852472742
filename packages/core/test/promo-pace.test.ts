import { expect } from 'chai';
import { newPace, newPromo, retimePromo, runCommand, validateDocument } from '@tender-orbit/core/document';
import type { Clip, PacePoint } from '@tender-orbit/core/document';
import {
  framesPlayed,
  framesShown,
  halvesOf,
  missingFrames,
  paceToFit,
  renderTimes,
  shownAt,
  speedAt,
  takesOf,
  takeTime,
  trimStart,
  withHold,
  withPoint,
} from '@tender-orbit/core/promo';

const POINTS: PacePoint[] = [
  { at: 0, speed: 1, ramp: 'hold' },
  { at: 10, speed: 2, ramp: 'even' },
  { at: 20, speed: 0.5, ramp: 'smooth' },
  { at: 40, speed: 1.5, ramp: 'even' },
];
const clip = (points: PacePoint[], values: Partial<Clip> = {}): Clip => ({
  ...{ id: 'a', take: 't', start: 5, length: 48 },
  pace: { ...newPace(), points },
  ...values,
});

describe('promo: speed by points', () => {
  it('the frames played are the integral of the speed, to the closed form', () => {
    const ramped = clip(POINTS);
    expect(takeTime(ramped, 10)).equal(15);
    expect(takeTime(ramped, 20)).closeTo(15 + 12.5, 1e-12);
    // A smooth ramp plays as much as an even one over its whole way, and less of a rise before its middle.
    expect(takeTime(ramped, 40)).closeTo(27.5 + 20, 1e-12);
    expect(takeTime(ramped, 30)).closeTo(27.5 + 10 * 0.5 + 20 * (1 / 8 - 1 / 32), 1e-12);
    expect(takeTime(ramped, 48)).closeTo(47.5 + 12, 1e-12);
    expect(takeTime(ramped, -4)).closeTo(1, 1e-12);
    expect(framesPlayed(ramped)).closeTo(54.5, 1e-12);
    // Against a sum of the speed in very small steps.
    let sum = 0;
    for (let i = 0; i < 48_000; i++) sum += speedAt(ramped, (i + 0.5) / 1000) / 1000;
    expect(sum).closeTo(54.5, 1e-3);
  });

  it('played the other way it shows the same from the last frame to the first', () => {
    const back = clip(POINTS, { pace: { ...newPace(), points: POINTS, reverse: true } });
    for (const at of [0, 7, 20, 31, 48])
      expect(takeTime(back, at)).closeTo(5 + 54.5 - 1 - framesPlayed(back, at), 1e-12);
  });

  it('speeds go over smoothly: no bend at the ends of the ramp, half way at its middle', () => {
    const ramped = clip(POINTS);
    expect([5, 9.999].map((at) => speedAt(ramped, at))).deep.equal([1, 1]);
    expect(speedAt(ramped, 10)).equal(2);
    expect(speedAt(ramped, 30)).closeTo(1, 1e-12);
    expect(speedAt(ramped, 20.1) - 0.5).below(1e-4);
    expect([-3, 60].map((at) => speedAt(ramped, at))).deep.equal([1, 1.5]);
  });

  it('a hold stands still for its frames and goes on where it was', () => {
    for (const whole of [clip(POINTS), { ...clip([]), pace: undefined }]) {
      const held: Clip = { ...whole, pace: { ...newPace(), points: withHold(whole, 12, 6) } };
      expect(takeTime(held, 12)).closeTo(takeTime(whole, 12), 0.05);
      for (const at of [13, 15, 18]) expect(takeTime(held, at)).equal(takeTime(held, 12));
      expect(takeTime(held, 19) - takeTime(held, 18)).closeTo(takeTime(whole, 13) - takeTime(whole, 12), 0.05);
      expect(framesPlayed(held, 46)).closeTo(framesPlayed(whole, 40), 0.1);
    }
  });

  it('a point takes the place of one at its frame, and lies in order', () => {
    const point: PacePoint = { at: 20, speed: 3, ramp: 'hold' };
    expect(withPoint(clip(POINTS), point).map(({ at }) => at)).deep.equal([0, 10, 20, 40]);
    expect(withPoint(clip(POINTS), { ...point, at: 44 }).at(-1)).include({ at: 44 });
    expect(withPoint({ length: 48 }, point)).deep.equal([{ at: 0, speed: 1, ramp: 'hold' }, point]);
  });

  it('split, and trimmed at its beginning both ways, it shows what it showed', () => {
    for (const reverse of [false, true]) {
      const whole = clip(POINTS, { start: 30, pace: { ...newPace(), points: POINTS, reverse } });
      for (const at of [4, 13, 33, 44]) {
        const [first, second] = halvesOf(whole, at);
        const one: Clip = { ...whole, ...first, length: at };
        const two: Clip = { ...whole, ...second, length: 48 - at };
        for (const f of [0, at - 1]) expect(takeTime(one, f)).closeTo(takeTime(whole, f), 0.51);
        for (const f of [0, 47 - at]) expect(takeTime(two, f)).closeTo(takeTime(whole, at + f), 0.51);
      }
      for (const by of [9, -6]) {
        const { values, shift } = trimStart(whole, by);
        const made = { ...whole, ...values } as Clip;
        expect(shift).equal(by);
        for (const f of [10, 30, 47]) expect(takeTime(made, f - by)).closeTo(takeTime(whole, f), 0.51);
      }
    }
  });

  it('is fitted to a number of frames by one factor, a plain or standing one by an even pace', () => {
    const fitted: Clip = { ...clip(POINTS), pace: { ...newPace(), ...paceToFit(clip(POINTS), 109) } };
    expect(framesPlayed(fitted)).closeTo(109, 1e-9);
    expect(fitted.pace!.points!.map(({ speed }) => speed)).deep.equal([2, 4, 1, 3]);
    expect(paceToFit({ length: 48 }, 24)).deep.equal({ from: 0.5, to: 0.5 });
    expect(paceToFit(clip([{ at: 0, speed: 0, ramp: 'hold' }]), 24)).deep.equal({ from: 0.5, to: 0.5 });
  });

  it('counts the frames that a transition asks for beyond the take', () => {
    const next: Clip = {
      ...{ id: 'b', take: 'u', start: 0, length: 20 },
      into: { kind: 'dissolve', frames: 8, angle: 0, softness: 0, colour: '#000000' },
    };
    const promo = { ...newPromo('P', 64, 64), clips: [clip(POINTS), next] };
    // 54.5 frames from the fifth, and four more at one and a half.
    expect(missingFrames(promo, 'a', 60)).deep.equal({ before: 0, after: 6 });
    expect(missingFrames(promo, 'a', 66)).deep.equal({ before: 0, after: 0 });
  });

  it('in-betweens that are rendered are shown at their times, others blended, none before the take is there', () => {
    const slow = clip([{ at: 0, speed: 0.4, ramp: 'hold' }], { length: 10 });
    const times = renderTimes(slow, 100, 2, 1);
    expect(times.map((t) => t.toFixed(1))).deep.equal('4.2 4.6 5.0 5.4 5.8 6.2 6.6 7.0 7.4 7.8 8.2 8.6 9.0'.split(' '));
    slow.pace = { ...slow.pace!, between: 'rendered', rendered: { take: 'r', times } };
    expect(framesShown(slow, 1, 100, true)).deep.equal([{ take: 'r', frame: 3, weight: 1 }]);
    expect(framesShown(slow, -2, 100, true)).deep.equal([{ take: 'r', frame: 0, weight: 1 }]);
    expect(framesShown(slow, 1, 100, false).map(({ take, frame }) => [take, frame])).deep.equal([
      ['t', 5],
      ['t', 6],
    ]);
    // Of a clip that was slipped and split, what still lies on a time that was rendered is shown.
    const slipped = { ...slow, start: 6 };
    expect(framesShown(slipped, 0, 100, true).map(({ take }) => take)).deep.equal(['t']);
    expect(framesShown(slipped, 1, 100, true)[0]).include({ take: 't', frame: 6 });
    const [, second] = halvesOf(slow, 5);
    expect(framesShown({ ...slow, ...second, length: 5 }, 2, 100, true)).deep.equal([
      { take: 'r', frame: 9, weight: 1 },
    ]);
    // Backwards, and at the take's end, each time is there once.
    const back = { ...slow, pace: { ...slow.pace, reverse: true } };
    expect(renderTimes(back, 7, 0, 0)).deep.equal([4.4, 4.8, 5.2, 5.6, 6]);
    const promo = { ...newPromo('P', 64, 64), clips: [slow] };
    expect(validateDocument('promo', JSON.parse(JSON.stringify(promo)))).deep.equal(promo);
    expect(takesOf(slow)).deep.equal(['t', 'r']);
    const shown = (ready: boolean) => shownAt(promo, 1, (take) => (take === 'r' && !ready ? 0 : 100))!.clip.frames;
    expect([shown(true).length, shown(false).length]).deep.equal([1, 2]);
  });

  it('keeps its times at another rate, and is refused beyond what a pace may be', () => {
    const promo = { ...newPromo('P', 64, 64), clips: [clip(POINTS)] };
    expect(validateDocument('promo', JSON.parse(JSON.stringify(promo)))).deep.equal(promo);
    const twice = runCommand(promo, retimePromo(2)).clips[0];
    for (const at of [0, 7, 24, 48]) expect(takeTime(twice, at * 2)).closeTo(takeTime(promo.clips[0], at), 1e-9);
    const bad = (values: Partial<PacePoint>): object => ({
      ...promo,
      clips: [clip([{ ...POINTS[0], ...values }])],
    });
    expect(() => validateDocument('promo', bad({ speed: -1 }))).throw(/Speed/);
    expect(() => validateDocument('promo', bad({ speed: 101 }))).throw(/Speed/);
    expect(() => validateDocument('promo', bad({ ramp: 'bouncy' as never }))).throw(/Ramp/);
    const many = { ...promo, clips: [clip(Array.from({ length: 51 }, (_, at) => ({ ...POINTS[0], at })))] };
    expect(() => validateDocument('promo', many)).throw(/Points of the pace/);
  });
});
