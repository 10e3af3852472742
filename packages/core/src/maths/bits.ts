const float = new Float64Array(1);
const words = new Uint32Array(float.buffer);

/** The upper half of a double's bits: sign, exponent and the first twenty bits of its fraction. */
export function highWord(x: number): number {
  float[0] = x;
  return words[1];
}

/** `x` with another upper half. */
export function withHighWord(x: number, high: number): number {
  float[0] = x;
  words[1] = high;
  return float[0];
}

/** x times 2 to the k, exact where the result is a normal number. */
export function scaleByPower(x: number, k: number): number {
  let [value, left] = [x, k];
  while (left > 1023) {
    value *= 8.98846567431158e307;
    left -= 1023;
  }
  while (left < -1022) {
    value *= 2.2250738585072014e-308;
    left += 1022;
  }
  return value * powerOfTwo(left);
}

/** 2 to the k for -1022 <= k <= 1023. */
function powerOfTwo(k: number): number {
  words[0] = 0;
  words[1] = (k + 1023) << 20;
  return float[0];
}
