export * from './ffmpeg.ts';
export * from './sounds.ts';
export * from './films.ts';
