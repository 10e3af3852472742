import { expect } from 'chai';
import { newPromo, newTitle, validateDocument, type PromoDocument } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { captionsOf, readCaptions, titlesOf, writeCaptions, type Caption } from '@tender-orbit/core/promo';

const RATE = { num: 24, den: 1 };
const promo: PromoDocument = {
  ...newPromo('Heather', 1920, 1080),
  titles: [
    newTitle('b', { text: 'From the moor', start: 60, length: 36 }),
    newTitle('a', { text: 'Vellowmere\n\n  heather <honey> & more ', start: 12, length: 47 }),
    newTitle('c', { text: ' \n ', start: 5, length: 5 }),
  ],
};
const fails = (code: string, words: RegExp, run: () => unknown): void => {
  try {
    run();
  } catch (error) {
    expect(error).instanceOf(Problem);
    expect((error as Problem).code).equal(code);
    expect((error as Problem).message).match(words);
    return;
  }
  throw new Error(`nothing was refused: ${code}`);
};

describe('captions', () => {
  const captions = captionsOf(promo, RATE);

  it('are the titles in the order in which they are read, without empty lines', () => {
    expect(captions).deep.equal([
      { start: 0.5, end: 59 / 24, text: 'Vellowmere\nheather <honey> & more' },
      { start: 2.5, end: 4, text: 'From the moor' },
    ]);
  });

  it('that begin together are read from above', () => {
    const at = (id: string, y: number) => newTitle(id, { text: id, y, start: 10, length: 10 });
    const together = captionsOf({ ...promo, titles: [at('below', 0.9), at('above', 0.2)] }, RATE);
    expect(together.map(({ text }) => text)).deep.equal(['above', 'below']);
  });

  it('titles of cuts that are shown are among them, when they are seen: at their speed, twice, and through two cuts', () => {
    const words = (id: string, start: number, length: number): PromoDocument['titles'][number] =>
      newTitle(id, { text: id, start, length });
    const base = (values: Partial<PromoDocument>): PromoDocument => ({ ...newPromo('Cut', 320, 180), ...values });
    const deep = base({ titles: [words('Deep', 12, 12)] });
    const inner = base({
      clips: [{ id: 'd', take: 'deep', start: 0, length: 24 }],
      titles: [words('Inner', 6, 12)],
    });
    const outer = base({
      clips: [
        { id: 'a', take: 'inner', start: 0, length: 24 },
        {
          ...{ id: 'b', take: 'inner', start: 0, length: 12 },
          pace: { from: 2, to: 2, reverse: false, between: 'nearest' },
        },
      ],
      titles: [words('Outer', 30, 6)],
    });
    const round = { ...inner, clips: [...inner.clips, { id: 'r', take: 'outer', start: 0, length: 9 }] };
    const cuts = { deep, inner: round, outer };
    const read = captionsOf({ ...outer, clips: [...outer.clips] }, RATE, cuts).map(({ text, start, end }) => [
      text,
      Math.round(start * 24),
      Math.round(end * 24),
    ]);
    expect(read).deep.equal([
      ['Inner', 6, 18],
      ['Deep', 12, 24],
      ['Inner', 27, 33],
      ['Outer', 30, 36],
      ['Deep', 30, 36],
    ]);
    expect(captionsOf(outer, RATE)).length(1);
  });

  it('are written as WebVTT, with what would be markup escaped', () => {
    expect(writeCaptions(captions, 'vtt')).equal(
      'WEBVTT\n\n1\n00:00:00.500 --> 00:00:02.458\nVellowmere\nheather &lt;honey&gt; &amp; more\n\n' +
        '2\n00:00:02.500 --> 00:00:04.000\nFrom the moor\n',
    );
  });

  it('are written as SubRip', () => {
    const late: Caption = { start: 3723.0004, end: 3725.25, text: 'Late' };
    expect(writeCaptions([late], 'srt')).equal('1\n01:02:03,000 --> 01:02:05,250\nLate\n');
  });

  it('come back to the frame from either, at broadcast rates too', () => {
    for (const rate of [RATE, { num: 30000, den: 1001 }, { num: 60, den: 1 }])
      for (const format of ['vtt', 'srt'] as const) {
        const titles = Array.from({ length: 40 }, (_, i) =>
          newTitle(`t${i}`, { text: `Line ${i} & <more>`, start: i * 37, length: 1 + ((i * 7) % 30) }),
        );
        const read = readCaptions(writeCaptions(captionsOf({ ...promo, titles }, rate), format), 'a file');
        const back = titlesOf(read, { ...promo, titles: [] }, rate, (n) => `n${n}`);
        expect(back.map(({ text, start, length }) => ({ text, start, length }))).deep.equal(
          titles.map(({ text, start, length }) => ({ text, start, length })),
        );
      }
  });

  it('are read as others write them: marks, names, notes, styles, settings, tags and short hours', () => {
    const file = [
      '\uFEFFWEBVTT - made elsewhere\r\nKind: captions\r\n',
      'STYLE\r\n::cue { color: lime }\r\n',
      'NOTE 00:01.000 --> 00:02.000\r\nnot read\r\n',
      'first\r\n00:01.5 --> 00:02.250 align:start position:10%\r\n<v Mara>Slow <i>as</i> <00:01.900>the hill</v>\r\n',
      '00:03.000 --> 00:04.000\r\n{\\an8}2 &lt; 3 &amp; <b>bold</b>\r\nsecond line\r\n',
      '00:05.000 --> 00:06.000\r\n\r\n',
    ].join('\r\n');
    expect(readCaptions(file, 'x.vtt')).deep.equal([
      { start: 1.5, end: 2.25, text: 'Slow as the hill' },
      { start: 3, end: 4, text: '2 < 3 & bold\nsecond line' },
    ]);
  });

  it('become titles that a promo takes: low, in a box, at once', () => {
    const titles = titlesOf(captions, { ...promo, titles: [] }, RATE, (n) => `caption-${n}`);
    expect(titles.map((t) => [t.id, t.start, t.length, t.y > 0.8, t.arrive.kind, (t.dress?.box ?? 0) > 0])).deep.equal([
      ['caption-0', 12, 47, true, 'none', true],
      ['caption-1', 60, 36, true, 'none', true],
    ]);
    const taken = { ...promo, titles };
    expect(validateDocument('promo', taken)).deep.equal(taken);
  });

  it('that cannot be taken are refused by what is wrong with them', () => {
    fails('captions/none', /no captions.*WebVTT or SubRip/, () => readCaptions('Just words.', 'notes.txt'));
    fails('captions/none', /empty\.srt/, () => readCaptions('', 'empty.srt'));
    fails('captions/no-time', /Caption 2 of x\.srt ends before it begins/, () =>
      readCaptions('1\n00:00:01,000 --> 00:00:02,000\nA\n\n2\n00:00:05,000 --> 00:00:04,000\nB\n', 'x.srt'),
    );
    const one: Caption = { start: 0, end: 1, text: 'A' };
    const take = (list: Caption[]): unknown => titlesOf(list, promo, RATE, String);
    fails('captions/many', /198 captions are more.*200 titles, and has 3/, () => take(Array(198).fill(one)));
    expect(take(Array(197).fill(one))).length(197);
    fails('captions/long', /Caption 1 has 2001 letters/, () => take([{ ...one, text: 'x'.repeat(2001) }]));
    fails('captions/late', /Caption 2 ends after 9000 s/, () => take([one, { ...one, end: 9000 }]));
  });
});
