export * from './analyse-music.ts';
export * from './correct-beats.ts';
export type { MusicSection } from './sections.ts';
