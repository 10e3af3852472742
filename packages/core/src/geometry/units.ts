/** Units that a length may be given in, and what one of them is in metres. */
export const METRES_IN = { m: 1, cm: 0.01, mm: 0.001, in: 0.0254 } as const;
export type LengthUnit = keyof typeof METRES_IN;
