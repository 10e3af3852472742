/** The number in a range that is nearest to another. */
export const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
