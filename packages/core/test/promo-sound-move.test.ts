import { expect } from 'chai';
import { fromTo, soundOfMove, type MoveSource } from '@tender-orbit/core/promo';
import { newClipPicture, newPromo, type Clip, type PromoDocument } from '@tender-orbit/core/document';
import { SOUND_KIT } from '@tender-orbit/core/audio';

const RATE = { num: 24, den: 1 };
/** A product that goes from the left edge to the right one between two frames, as softly as a key does. */
const across =
  (from: number, to: number) =>
  (frame: number): number => {
    const t = Math.min(1, Math.max(0, (frame - from) / (to - from)));
    return -0.7 + 1.4 * t * t * (3 - 2 * t);
  };
const source = (x: (frame: number) => number, high = 0.4): MoveSource => ({
  focusOf: (take, frame) => (take === 't' ? { id: 'jar', x: x(frame), y: 0, wide: 0.3, high } : null),
  takeAspect: 16 / 9,
  takeLength: () => 96,
});
const promo = (values: Partial<Clip> = {}): PromoDocument => ({
  ...newPromo('P', 160, 90),
  clips: [
    { id: 'lead', take: 't', start: 0, length: 30 },
    { id: 'a', take: 't', start: 0, length: 48, ...values },
  ],
});

describe('promo: sounding a move', () => {
  it('its accent is where the move is fastest, it lasts as long, and goes along from side to side', () => {
    const sound = soundOfMove(promo(), 'a', RATE, 's', source(across(10, 34)))!;
    expect(sound.at).within(30 + 21, 30 + 23);
    expect([sound.pan, sound.panTo]).satisfy(([from, to]: number[]) => from < -0.45 && to > 0.45);
    const made = sound.source.kind === 'made' ? sound.source.sound : null;
    expect(made).include({ kind: 'whoosh', weight: 0.4 });
    // A quarter of the highest speed and more: all but the ends of a second.
    const { accent } = SOUND_KIT.whoosh;
    expect(made!.seconds).within(0.4 / (1 - accent), 0.5 / (1 - accent));
  });

  it('a slower or slowed move is longer, lower and quieter; back it goes the other way', () => {
    const of = (values: Partial<Clip>) => soundOfMove(promo(values), 'a', RATE, 's', source(across(4, 20)))!;
    const quick = of({});
    const slow = of({ pace: { from: 0.5, to: 0.5, reverse: false, between: 'blend' } });
    const made = (sound: typeof slow) => (sound.source.kind === 'made' ? sound.source.sound : null)!;
    expect(made(slow).seconds).above(1.7 * made(quick).seconds);
    expect(slow.gain).below(quick.gain);
    expect(made(slow).pitch).below(made(quick).pitch);
    const back = of({ start: 0, length: 24, pace: { from: 1, to: 1, reverse: true, between: 'blend' } });
    expect([Math.sign(back.pan), Math.sign(back.panTo)]).deep.equal([1, -1]);
  });

  it('a picture that is moved by its own keys is heard as well; what stands still, or is not known, is not', () => {
    const still = source(() => 0);
    expect(soundOfMove(promo(), 'a', RATE, 's', still)).equal(null);
    const { picture, keys } = fromTo(48, { x: -0.5 }, { x: 0.5 });
    const moved = {
      ...promo({ picture: newClipPicture(picture) }),
      tracks: Object.entries(keys).map(([path, own]) => ({ thing: 'a', path, keys: own })),
    };
    const sound = soundOfMove(moved, 'a', RATE, 's', still)!;
    expect([Math.sign(sound.pan), Math.sign(sound.panTo)]).deep.equal([-1, 1]);
    expect(soundOfMove(promo({ take: 'other' }), 'a', RATE, 's', source(across(0, 9)))).equal(null);
    expect(soundOfMove(promo(), 'gone', RATE, 's', source(across(0, 9)))).equal(null);
    // What comes nearer goes past.
    const near: MoveSource = {
      ...still,
      focusOf: (_, frame) => ({ id: 'jar', x: 0, y: 0, wide: 0.3, high: 0.2 + frame * 0.01 }),
    };
    expect(soundOfMove(promo(), 'a', RATE, 's', near)).not.equal(null);
  });
});
