import * as m from '@tender-orbit/core/maths';

/** A million results, over every function of the core's maths: what two engines are compared by. */
export function millionResults(): Float64Array {
  const one = [m.sin, m.cos, m.tan, m.atan, m.asin, m.acos, m.exp, m.exp2, m.log, m.log2, m.log10, m.tanh];
  const results = new Float64Array(1_000_000);
  // A full-period generator of 32 bits: the same numbers wherever it runs.
  let state = 7;
  const next = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
  for (let i = 0; i < results.length; i++) {
    const f = i % 14;
    const x = next();
    if (f === 12) results[i] = m.pow(x * 4, next() * 6);
    else if (f === 13) results[i] = m.atan2(x - 0.5, next() - 0.5);
    else if (f === 4 || f === 5) results[i] = one[f](2 * x - 1);
    else if (f > 7) results[i] = one[f](x * 40);
    else results[i] = one[f]((x - 0.5) * (f < 4 ? 2e4 : 40));
  }
  return results;
}
