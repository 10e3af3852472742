export const ARRIVAL_KINDS = ['none', 'fade', 'rise', 'slide'] as const;
export type ArrivalKind = (typeof ARRIVAL_KINDS)[number];

export interface Arrival {
  kind: ArrivalKind;
  frames: number;
}

export interface Clip {
  id: string;
  order?: string;
  /** Id of the take; empty while none is chosen. */
  take: string;
  /** First frame of the take that is used. */
  start: number;
  /** Frames in the promo; past the take's end its last frame stays. */
  length: number;
}

export const ALIGNMENTS = ['left', 'centre', 'right'] as const;

export interface Title {
  id: string;
  order?: string;
  text: string;
  font: string;
  /** Height of the letters' em, in pixels of the promo. */
  size: number;
  /** Letter spacing in em. */
  tracking: number;
  colour: string;
  /** 0..1 of the picture, the anchor of the text block. */
  x: number;
  y: number;
  align: (typeof ALIGNMENTS)[number];
  start: number;
  length: number;
  arrive: Arrival;
  leave: Arrival;
}

export interface MusicUse {
  /** SHA-256 of the music file. */
  asset: string;
  /** SHA-256 of the file of its peaks; missing for music of before there were any. */
  peaks?: string;
  name: string;
  /** Seconds into the music at the promo's first frame. */
  trim: number;
  gain: number;
  fadeIn: number;
  fadeOut: number;
  /** Beats per minute, and seconds into the file of the first downbeat. 0 bpm: no beats known. */
  tempo: number;
  firstBeat: number;
  /** Beats one by one, seconds into the file, where they were listened for; empty: they are even. */
  beats: number[];
  beatsPerBar: number;
  /** Which of the beats is the first that begins a bar. */
  downbeat: number;
  sections: MusicPart[];
}

export const MUSIC_PARTS = ['quiet', 'steady', 'build', 'drop'] as const;

/** A stretch of the music by its energy, seconds into the file. */
export interface MusicPart {
  from: number;
  to: number;
  kind: (typeof MUSIC_PARTS)[number];
}

export interface PromoDocument {
  version: 2;
  name: string;
  width: number;
  height: number;
  clips: Clip[];
  titles: Title[];
  music: MusicUse | null;
}
