import { expect } from 'chai';
import { newPromo, newTitle, noBeats, type PromoDocument, type Title } from '@tender-orbit/core/document';
import { makePicture } from '@tender-orbit/core/picture';
import {
  assemble,
  placedClips,
  promoBeats,
  promoLength,
  shownAt,
  soundTrack,
  takeFramesAt,
  fontFiles,
  ownFontAsset,
  TITLE_FONTS,
  type TitlePainter,
  titlePose,
} from '@tender-orbit/core/promo';
import { SAMPLE_RATE, silence } from '@tender-orbit/core/audio';
import { plates } from './composite-box.ts';
import { openPainter, readFont } from './title-box.ts';

const clip = (id: string, take: string, start: number, length: number): PromoDocument['clips'][number] => ({
  id,
  take,
  start,
  length,
});
const promo = (values: Partial<PromoDocument> = {}): PromoDocument => ({ ...newPromo('Launch', 320, 180), ...values });
const RATE = { num: 24, den: 1 };

describe('promo: the cut', () => {
  const cut = promo({ clips: [clip('a', 't1', 10, 5), clip('b', '', 0, 3), clip('c', 't2', 0, 4)] });

  it('lays clips end to end', () => {
    expect(placedClips(cut).map((p) => p.from)).deep.equal([0, 5, 8]);
    expect(promoLength(cut)).equal(12);
  });

  it('shows the right frame of the right take, holds the last, and nothing where nothing is', () => {
    const length = (take: string): number => ({ t1: 13, t2: 4 })[take] ?? 0;
    const shown = Array.from({ length: 13 }, (_, f) => takeFramesAt(cut, f, length)[0]?.frame ?? -1);
    expect(shown).deep.equal([10, 11, 12, 12, 12, -1, -1, -1, 0, 1, 2, 3, -1]);
    expect(takeFramesAt(cut, 9, length)[0].take).equal('t2');
    expect(takeFramesAt(promo({ clips: [clip('a', 'deleted', 0, 5)] }), 0, length)).deep.equal([]);
    expect(shownAt(cut, 12, length)).equal(null);
  });

  it('is as long as its last title when that stays longer', () => {
    expect(promoLength(promo({ titles: [newTitle('t', { start: 20, length: 30 })] }))).equal(50);
  });
});

describe('promo: sound', () => {
  const music = {
    asset: 'a'.repeat(64),
    name: 'x',
    trim: 0.5,
    gain: 0,
    fadeIn: 0,
    fadeOut: 0,
    tempo: 96,
    firstBeat: 0.25,
    ...noBeats(),
  };

  it('is exactly as long as the pictures at every rate', () => {
    const rate = { num: 30000, den: 1001 };
    const sound = soundTrack(promo({ clips: [clip('a', '', 0, 100)], music }), rate, silence(10), SAMPLE_RATE);
    expect(sound.left.length).equal(Math.round((100 * 1001 * SAMPLE_RATE) / 30000));
  });

  it('is silent without music and starts at the trim point with it', () => {
    const source = silence(SAMPLE_RATE);
    source.left[SAMPLE_RATE / 2] = 0.7;
    const one = promo({ clips: [clip('a', '', 0, 24)], music });
    expect(soundTrack(one, RATE, source, SAMPLE_RATE).left[0]).closeTo(0.7, 1e-6);
    expect(soundTrack({ ...one, music: null }, RATE, source, SAMPLE_RATE).left.every((v) => v === 0)).equal(true);
  });

  it('has beats where the trim puts them, and none while the tempo is unknown', () => {
    expect(promoBeats(promo({ music }))).deep.equal({
      ...{ tempo: 96, firstBeat: -0.25, beatsPerBar: 4 },
      ...{ times: [], downbeat: 0 },
    });
    expect(promoBeats(promo({ music: { ...music, tempo: 0 } }))).equal(null);
  });
});

describe('promo: title poses', () => {
  const title = newTitle('t', {
    start: 10,
    length: 20,
    arrive: { kind: 'rise', frames: 5 },
    leave: { kind: 'fade', frames: 4 },
  });

  it('are there from the first frame to the last and nowhere else', () => {
    expect(titlePose(title, 9)).equal(null);
    expect(titlePose(title, 30)).equal(null);
    expect(titlePose(title, 10)!.opacity).within(0.01, 0.99);
    expect(titlePose(title, 29)!.opacity).within(0.01, 0.99);
  });

  it('rise to rest and stay still in between', () => {
    let last = Infinity;
    for (let f = 10; f < 16; f++) {
      const { down } = titlePose(title, f)!;
      expect(down).at.most(last);
      last = down;
    }
    expect(titlePose(title, 20)).include({ opacity: 1, across: 0, down: 0, scale: 1, blur: 0, turn: 0 });
  });

  it('arrive at once when told so', () => {
    const at = titlePose({ ...title, arrive: { kind: 'none', frames: 9 } }, 10)!;
    expect(at).include({ opacity: 1, across: 0, down: 0, scale: 1, unmasked: 1, counted: 1 });
  });
});

describe('promo: titles and pictures', () => {
  let painter: TitlePainter;
  before(async () => {
    painter = await openPainter();
  });
  after(() => painter.dispose());

  const steady = (values: Partial<Title> = {}): Title =>
    newTitle('t', {
      text: 'Vellowmere',
      size: 40,
      arrive: { kind: 'none', frames: 0 },
      leave: { kind: 'none', frames: 0 },
      ...values,
    });
  const ink = (title: Title, frame = 5): { left: number; right: number; sum: number } => {
    const o = painter.draw(title, frame, 320, 180);
    let [left, right, sum] = [Infinity, -Infinity, 0];
    if (!o) return { left, right, sum };
    for (let i = 3; i < o.data.length; i += 4) {
      if (o.data[i] < 128) continue;
      const x = o.left + (((i - 3) / 4) % o.width);
      left = Math.min(left, x);
      right = Math.max(right, x);
      sum++;
    }
    return { left, right, sum };
  };

  it('draw the same bytes every time', () => {
    const once = painter.draw(steady(), 5, 320, 180)!;
    const again = painter.draw(steady(), 5, 320, 180)!;
    expect(Buffer.from(once.data).equals(Buffer.from(again.data))).equal(true);
  });

  it('stand where they are aligned', () => {
    const centre = ink(steady({ align: 'centre', x: 0.5 }));
    expect((centre.left + centre.right) / 2).closeTo(160, 4);
    expect(ink(steady({ align: 'left', x: 0.25 })).left).closeTo(80, 5);
    expect(ink(steady({ align: 'right', x: 0.75 })).right).closeTo(240, 5);
  });

  it('use every shipped font, each with letters of its own', () => {
    const families = TITLE_FONTS.filter((f) => !f.script || f.script === 'world');
    const sums = families.map((f) => ink(steady({ font: f.id })).sum);
    expect(sums.every((s) => s > 200)).equal(true);
    expect(new Set(sums).size).equal(sums.length);
    expect(new Set(TITLE_FONTS.map(({ files }) => files[0].split('/')[0])).size).least(14);
  });

  it('have letters for every script, whatever font is chosen, joined and from right to left where they are', () => {
    const words = ['Μέλι', 'Мёд', 'دبش', 'דבש', 'शहद', 'はちみつ', '蜂蜜', '꿀'];
    const missing = ink(steady({ text: '\u{10FFFD}\u{10FFFD}' })).sum;
    const sums = words.map((text) => ink(steady({ text })).sum);
    for (const [i, sum] of sums.entries()) expect(sum, words[i]).above(150);
    expect(new Set([...sums, missing]).size).equal(sums.length + 1);
    // Joined letters are drawn together, not one beside the other.
    const joined = ink(steady({ text: 'عسل' }));
    const apart = ink(steady({ text: 'ع س ل' }));
    expect(joined.right - joined.left).below(0.8 * (apart.right - apart.left));
    // The first letter of a line of its own stands on its right.
    const first = ink(steady({ text: 'ש ....', align: 'right', x: 0.9 }));
    expect(first.right).closeTo(0.9 * 320, 8);
  });

  it('get their fonts when texts need them: the chosen ones, and those of scripts that these lack', () => {
    const plain = fontFiles([{ font: 'fraunces-600', text: 'Honey' }]);
    expect(plain).deep.equal(fontFiles([]));
    const more = fontFiles([
      { font: 'caveat-700', text: 'Honey' },
      { font: 'fraunces-600', text: 'はちみつ' },
    ]);
    const families = new Set(more.filter((file) => !plain.includes(file)).map((file) => file.split('/')[0]));
    expect(families).deep.equal(new Set(['caveat', 'noto-sans-jp']));
  });

  it('are set in a font that was brought, by its file; without it in those that ship', async () => {
    const hash = 'ab'.repeat(32);
    const shipped = ink(steady({ font: 'great-vibes-400' })).sum;
    const fallback = ink(steady({ font: hash })).sum;
    expect(fallback).not.equal(shipped);
    const asked: string[] = [];
    const own = await openPainter((file) => {
      asked.push(file);
      return readFont('great-vibes/files/great-vibes-latin-400-normal.woff2');
    });
    await own.need([{ font: hash, text: 'Vellowmere' }]);
    expect(asked).deep.equal([`own/${hash}`]);
    expect(ownFontAsset(asked[0])).equal(hash);
    expect([ownFontAsset('caveat/files/x.woff2'), ownFontAsset('own/../secret')]).deep.equal([null, null]);
    const title = steady({ font: hash });
    expect(own.draw(title, 5, 320, 180)).deep.equal(painter.draw(steady({ font: 'great-vibes-400' }), 5, 320, 180));
    own.dispose();
  });

  it('draw letters with accents from the extended files', () => {
    expect(ink(steady({ text: 'Łąka ěščř' })).sum).above(300);
  });

  it('wrap instead of running out of the picture, and take 2,000 characters', () => {
    const long = ink(steady({ text: 'slow as the hill '.repeat(12), size: 20, y: 0.5 }));
    expect(long.left).at.least(0);
    expect(long.right).at.most(320);
    expect(ink(steady({ text: 'x'.repeat(2000), size: 6 })).sum).above(0);
  });

  it('draw nothing for an empty text, before and after', () => {
    expect(painter.draw(steady({ text: '  \n ' }), 5, 320, 180)).equal(null);
    expect(painter.draw(steady({ start: 6 }), 5, 320, 180)).equal(null);
    expect(painter.draw(steady({ x: -5, y: -5 }), 5, 320, 180)).equal(null);
  });

  it('are laid over the picture of the take, which is not touched', () => {
    const source = makePicture(320, 180, [10, 20, 30]);
    const cut = promo({ clips: [clip('a', 't', 0, 9)], titles: [steady()] });
    const made = assemble(
      plates,
      cut,
      5,
      shownAt(cut, 5, () => 9),
      () => source,
      painter,
    );
    expect(source.data.every((v, i) => v === [10, 20, 30, 255][i % 4])).equal(true);
    expect([...made.data.subarray(0, 4)]).deep.equal([10, 20, 30, 255]);
    expect(Math.max(...made.data.filter((_, i) => i % 4 === 0))).above(200);
    const later = { ...cut, titles: [steady({ start: 9 })] };
    const before = assemble(
      plates,
      later,
      5,
      shownAt(later, 5, () => 9),
      () => source,
      painter,
    );
    expect(Buffer.from(before.data).equals(Buffer.from(source.data))).equal(true);
  });

  it('stand on black where there is no take', () => {
    const made = assemble(plates, promo({ titles: [steady()] }), 5, null, () => null, painter);
    expect([...made.data.subarray(0, 4)]).deep.equal([0, 0, 0, 255]);
  });
});
