import { expect } from 'chai';
import { newLayer, newShot, validateDocument, type GradientStop, type Layer } from '@tender-orbit/core/document';
import { at, composed, layer } from './composite-box.ts';

const stop = (at: number, colour: string, opacity = 1): GradientStop => ({ at, colour, opacity });
const TALL = { width: 64, height: 100 };
/** A run from the top of the picture to its bottom. */
const run = (stops: GradientStop[], values: object = {}): Layer =>
  layer('gradient', { form: 'linear', size: 1, space: 'glass', stops, ...values });
const red = (own: Layer, y: number): number => at(composed([own], TALL), 20, y)[0];

describe('composite: gradients of several stops', () => {
  it('go evenly from stop to stop in the order of their places, and stand still before the first and after the last', () => {
    const own = run([stop(0.8, '#000000'), stop(0.2, '#000000'), stop(0.5, '#FFFFFF')]);
    expect(red(own, 5)).at.most(1);
    expect(red(own, 95)).at.most(1);
    expect(red(own, 49)).above(245);
    // Rows' middles lie at 34.5 and 64.5 hundredths.
    expect(red(own, 34)).closeTo((255 * (0.345 - 0.2)) / 0.3, 2);
    expect(red(own, 64)).closeTo((255 * (0.8 - 0.645)) / 0.3, 2);
  });

  it('two stops at one place make an edge; what is clear does not darken what it fades into', () => {
    const edge = run([stop(0, '#FFFFFF'), stop(0.5, '#FFFFFF'), stop(0.5, '#000000'), stop(1, '#000000')]);
    expect([red(edge, 48), red(edge, 51)].map((v) => v > 128)).deep.equal([true, false]);
    const below = newLayer('solid', 's', 'S', { colour: '#FF0000', space: 'glass' } as Partial<Layer>);
    const fading = run([stop(0, '#FF0000'), stop(1, '#0000FF', 0)]);
    const picture = composed([below, fading], TALL);
    // Red into nothing over red: premultiplied, red stays whole all the way.
    for (const y of [10, 40, 70]) expect(at(picture, 20, y)[0] + at(picture, 20, y)[2]).within(253, 257);
  });

  it('slow runs show no bands: rows of a byte in the mean are what they should be, not the byte next to it', () => {
    const slow = layer('gradient', {
      ...{ form: 'linear', size: 1, space: 'glass', colour: '#303030', otherColour: '#3A3A3A', middle: 0.5 },
    });
    const picture = composed([slow], { width: 256, height: 200 });
    let worst = 0;
    for (let y = 10; y < 190; y++) {
      let sum = 0;
      for (let x = 0; x < 256; x++) sum += at(picture, x, y)[0];
      worst = Math.max(worst, Math.abs(sum / 256 - (48 + (10 * (y + 0.5)) / 200)));
    }
    expect(worst).below(0.05);
  });

  it('are kept in documents, two at least, and may be missing', () => {
    const shot = (own: Layer) => ({ ...newShot('S', 'set', 'hero', 24), layers: [own] });
    const sound = shot(run([stop(0, '#FFFFFF'), stop(1, '#000000')]));
    expect(validateDocument('shot', JSON.parse(JSON.stringify(sound)))).deep.equal(sound);
    expect(validateDocument('shot', JSON.parse(JSON.stringify(shot(layer('gradient')))))).deep.equal(
      shot(layer('gradient')),
    );
    expect(() => validateDocument('shot', shot(run([stop(0, '#FFFFFF')])))).throw('two stops at least');
    expect(() => validateDocument('shot', shot(run([stop(0, '#FFFFFF'), stop(2, '#000000')])))).throw(
      /Place of a stop/,
    );
  });
});
