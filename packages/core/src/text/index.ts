export * from './decode.ts';
export * from './shorten.ts';
export * from './sound-text.ts';
