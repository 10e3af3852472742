export * from './finish.ts';
export * from './patterns.ts';
export * from './pattern-words.ts';
export * from './make-picture.ts';
export type { Mask, MaskStroke } from './mask.ts';
export * from './library.ts';
