import type { KitSound, Piece, Strip } from '../../audio/index.ts';
import type { Item } from '../common.ts';
import type { LayerStack } from '../shot/index.ts';
import type { ClipPicture } from './clip-picture.ts';
import type { Arrival, PromoVariable, Title } from './title-types.ts';

export * from './title-types.ts';

/** The most titles, sounds, overlays, markers, groups and pieces of footage, letters and runs of a title, frames that a point of a callout is followed through, points of a pace, frames that are rendered for one, and frames that anything begins at or lasts. */
export const PROMO_LIMITS = {
  titles: 200,
  sounds: 200,
  overlays: 200,
  markers: 500,
  footage: 200,
  letters: 2000,
  runs: 100,
  followed: 2000,
  groups: 200,
  pacePoints: 50,
  renderedTimes: 2000,
  frames: 100_000,
};

export const TRANSITIONS = [
  ...(['dissolve', 'dip', 'flash', 'wipe', 'iris', 'luma'] as const),
  ...(['push', 'slide', 'zoom', 'whip', 'leak', 'smoke', 'fly', 'logo'] as const),
] as const;
export type TransitionKind = (typeof TRANSITIONS)[number];

/** Outlines that an iris opens in. */
export const IRIS_SHAPES = ['circle', 'hexagon', 'diamond', 'star'] as const;

/** How a clip comes after the one before it; half of its frames lie before the cut. */
export interface Transition {
  kind: TransitionKind;
  frames: number;
  /** Degrees, which way it goes: 0 to the right, 90 up; how an iris is turned. Wipes, smoke and light leaks take any, pushes, slides and whips the nearest side. */
  angle: number;
  /** Of the edge of a wipe, an iris, smoke or a luma wipe, in shares of its way. */
  softness: number;
  /** Of a dip, smoke or a light leak. */
  colour: string;
  /** Of an iris; missing: a circle. */
  shape?: (typeof IRIS_SHAPES)[number];
  /** Of smoke; missing: the first. */
  seed?: number;
  /** Id of the footage whose shape the next clip is seen through; missing: none. */
  logo?: string;
}

/** Frames of a take in a frame of the promo, at most. */
export const FASTEST_PACE = 100;

/**
 * In-betweens of a clip that is not played frame by frame: the nearest frame, two of them mixed, motion-compensated by what the take's
 * frames say, or rendered; those that are to be rendered and are not are blended.
 */
export const IN_BETWEENS = ['nearest', 'blend', 'compensated', 'rendered'] as const;

/** A take of the same shot at other times than its whole frames. */
export interface RenderedTimes {
  take: string;
  /** Frames of the clip's take, and parts of them, at which each of its frames was rendered: from the earliest to the latest. */
  times: number[];
}

/** How a speed becomes that of the next point: evenly, smoothly (with no bend at either), or not until it is reached. */
export const PACE_RAMPS = ['even', 'smooth', 'hold'] as const;

/** A speed at a place of a clip, which may lie before its first frame or after its end. */
export interface PacePoint {
  /** Frames of the clip. */
  at: number;
  /** Frames of the take in a frame of the promo; 0: it stands still. */
  speed: number;
  /** To the next point. */
  ramp: (typeof PACE_RAMPS)[number];
}

/** How fast a clip plays its take. */
export interface Pace {
  /** Frames of the take in a frame of the promo, at the clip's first frame and at its end; it changes evenly in between. */
  from: number;
  to: number;
  /** Speeds by points, in their order, instead; before the first and after the last it stays. Missing: by its two ends. */
  points?: PacePoint[];
  /** Plays the same frames the other way. */
  reverse: boolean;
  between: (typeof IN_BETWEENS)[number];
  /** In-betweens that were rendered; missing: none were. */
  rendered?: RenderedTimes;
}

/** How a picture of another proportion fills the frame: cropped, or over its own blurred picture. */
export const CLIP_FILLS = ['cropped', 'blurred'] as const;

/** Whether a sound whose picture is played faster or slower keeps its pitch, or goes up and down with it. */
export const PITCHES = ['kept', 'follows'] as const;

/** How the sound of a film or a cut is heard that a clip or an overlay shows. */
export interface OwnSound {
  /** Decibels. */
  gain: number;
  pitch: (typeof PITCHES)[number];
}

export interface Clip {
  id: string;
  order?: string;
  /** Id of the take, or of a piece of footage; empty while none is chosen. */
  take: string;
  /** First frame of the take that is used. */
  start: number;
  /** Frames in the promo; past the take's end its last frame stays. */
  length: number;
  /** Missing: a cut. */
  into?: Transition;
  /** Missing: a frame of the take for each of the promo. */
  pace?: Pace;
  /** Missing: the whole picture, at rest. Its keys are tracks of the promo, whose frames count from the clip's first. */
  picture?: ClipPicture;
  /** Black for as long as it is. */
  off?: boolean;
  /** Missing: between black bars. */
  fill?: (typeof CLIP_FILLS)[number];
  /** Missing: what it shows is not heard. */
  sound?: OwnSound;
}

/** Corners of low-passes, Hz: at the most nothing is dampened. */
export const LOW_PASS = { least: 40, most: 20_000 };

export interface MusicUse {
  /** SHA-256 of the music file. */
  asset: string;
  /** SHA-256 of the file of its peaks; missing for music of before there were any. */
  peaks?: string;
  name: string;
  /** Seconds into the music, as it is edited, at the promo's first frame. */
  trim: number;
  /** Stretches of the file that are played one after the other; missing: all of it. */
  pieces?: Piece[];
  /** Whether its last piece is played again until the promo is over, however long that becomes. */
  loops?: boolean;
  /** How many times as long it is at its own pitch; missing: once. */
  stretch?: number;
  /** Hz above which it is dampened; missing: none. */
  lowPass?: number;
  gain: number;
  fadeIn: number;
  fadeOut: number;
  /** Seconds in which the music rings out at the end of the promo instead of being cut off; missing: it is not. */
  ring?: number;
  /** LUFS that the promo is brought to; missing: as loud as it is. */
  loudness?: number;
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

/** A sound that the product makes by code. */
export interface MadeSource {
  kind: 'made';
  sound: KitSound;
}

/** A stretch of a sound file. */
export interface FileSource {
  kind: 'file';
  /** SHA-256 of the file. */
  asset: string;
  /** Seconds into the file where it begins, and how long it is. */
  trim: number;
  seconds: number;
}

export type SoundSource = MadeSource | FileSource;

/** A sound besides the music. */
export interface PromoSound {
  id: string;
  order?: string;
  name: string;
  source: SoundSource;
  /** Frame on which its accent falls; a file begins there. */
  at: number;
  /** Decibels. */
  gain: number;
  /** Played from its end to its beginning. */
  reverse?: boolean;
  /** Hz of a low-pass as it begins and as it ends; missing: none. */
  sweep?: [from: number, to: number];
  /** -1 left, 1 right, as it begins and as it ends. */
  pan: number;
  panTo: number;
  /** Seconds. */
  fadeIn: number;
  fadeOut: number;
  /** Decibels by which the music goes down while it is loud. */
  duck: number;
  on: boolean;
}

/** A film, numbered pictures or a still that was brought in: clips and overlays show it as they show takes. */
export interface Footage {
  id: string;
  order?: string;
  name: string;
  /** SHA-256 of the list of its frames, and of the frame that stands for it. */
  list: string;
  poster: string;
  /** 1: a still. */
  frames: number;
  width: number;
  height: number;
  /** Frames a second. */
  rate: number;
  /** SHA-256 of its sound, which begins with its first frame; missing: it has none. */
  sound?: string;
}

/** A piece of footage or a take over the picture. */
export interface PromoOverlay {
  id: string;
  order?: string;
  /** Id of the footage, or of the take. */
  footage: string;
  /** Frame of it at its beginning, and how many go by in a frame of the promo; its last one stays. */
  first: number;
  speed: number;
  start: number;
  length: number;
  /** Its middle, 0..1 of the picture. */
  x: number;
  y: number;
  /** Its height, in heights of the promo. */
  size: number;
  /** Degrees to the left. */
  rotation: number;
  opacity: number;
  /** Of its corners, heights of its picture, and shares of that which are cut off; missing: none. */
  radius?: number;
  cropLeft?: number;
  cropRight?: number;
  cropTop?: number;
  cropBottom?: number;
  arrive: Arrival;
  leave: Arrival;
  /** Missing: what it shows is not heard. */
  sound?: OwnSound;
}

/** A place on the time line with a name, or a stretch of it with a note. */
export interface Marker extends Item {
  at: number;
  /** Frames; 0: a place. */
  length: number;
}

/** Things of the promo that are chosen and carried as one. */
export interface PromoGroup {
  id: string;
  order?: string;
  /** Ids of clips, titles, overlays, sounds, markers and layers. */
  members: string[];
}

/** Rows that the promo's sound goes through. */
export interface Mixer {
  music: Strip;
  sounds: Strip;
  /** Of both together. */
  all: Strip;
}

/**
 * What is composited over the picture and the overlays, and below the titles, are layers as those of shots, which count their frames
 * from the promo's first.
 */
export interface PromoDocument extends LayerStack {
  version: 5;
  name: string;
  width: number;
  height: number;
  clips: Clip[];
  titles: Title[];
  music: MusicUse | null;
  sounds: PromoSound[];
  footage: Footage[];
  /** Over the picture and below the titles, the lowest first. */
  overlays: PromoOverlay[];
  markers: Marker[];
  /** What titles name in braces; missing: nothing is. */
  variables?: PromoVariable[];
  /** Missing: sounds are as they are. */
  mixer?: Mixer;
  /** Missing: each thing is by itself. */
  groups?: PromoGroup[];
}
