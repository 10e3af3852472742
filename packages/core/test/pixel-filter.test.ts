import { expect } from 'chai';
import { blackmanHarris, FILTER_RADIUS, FILTER_STEPS, filterPlaces } from '@tender-orbit/core/trace';
import { block, FREE, LAMBERT, moved, pack, trace } from './studio.ts';

/** Share of the filter to the left of `x`, added up from its height. */
function shareBelow(x: number): number {
  const steps = 4000;
  const width = (x + FILTER_RADIUS) / steps;
  let sum = 0;
  for (let i = 0; i < steps; i++) sum += blackmanHarris(-FILTER_RADIUS + (i + 0.5) * width) * width;
  return sum / (2 * FILTER_RADIUS * 0.35875);
}

describe('pixel filter', () => {
  it('is one in the middle, even, never below zero and all but nothing at its rim', () => {
    expect(blackmanHarris(0)).closeTo(1, 1e-12);
    for (let x = 0; x <= FILTER_RADIUS; x += 0.05) {
      expect(blackmanHarris(x)).closeTo(blackmanHarris(-x), 1e-12);
      expect(blackmanHarris(x)).at.least(0);
    }
    expect(blackmanHarris(FILTER_RADIUS - 1e-6)).below(1e-4);
    expect(blackmanHarris(FILTER_RADIUS + 0.1)).equal(0);
    expect(shareBelow(FILTER_RADIUS)).closeTo(1, 1e-6);
  });

  it('places of samples rise from rim to rim and lie where the filter says', () => {
    const places = filterPlaces();
    expect([places[0], places[FILTER_STEPS]]).deep.equal([-FILTER_RADIUS, FILTER_RADIUS]);
    for (let i = 1; i <= FILTER_STEPS; i++) expect(places[i]).above(places[i - 1]);
    for (const i of [1, 20, 64, 128, 200, 255]) expect(shareBelow(places[i])).closeTo(i / FILTER_STEPS, 1e-5);
  });

  it('an edge in a traced picture is as soft as the filter, and no softer', () => {
    const size = 32;
    const fov = 30;
    // Straight on, one unit away: a pixel is this wide where the block's face is.
    const pixel = (2 * Math.tan((fov * Math.PI) / 360)) / size;
    // The face's edge lies 0.3 of a pixel right of the middle of pixel 16.
    const edge = 0.8 * pixel;
    const wall = { mesh: block([4, 4, 0.01]), matrix: moved(edge - 2, -2, -0.005), finish: LAMBERT };
    const { alpha } = trace(pack({ things: [wall], eye: [0, 0, 1], aim: [0, 0, 0], fov }), 512, size, FREE);
    for (const column of [14, 15, 16, 17, 18, 19]) {
      const middle = (column - 16 + 0.5) * pixel;
      const rows = Array.from({ length: size }, (_, y) => alpha[y * size + column]);
      const seen = rows.reduce((n, v) => n + v, 0) / size;
      expect(seen).closeTo(
        shareBelow(Math.max(-FILTER_RADIUS, Math.min(FILTER_RADIUS, (edge - middle) / pixel))),
        0.01,
      );
    }
  });
});
