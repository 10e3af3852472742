export * from './frame-rate.ts';
export * from './timecode.ts';
export * from './beats.ts';
