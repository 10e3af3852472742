export const ARRIVAL_KINDS = [
  ...(['none', 'fade', 'rise', 'slide', 'scale', 'type'] as const),
  ...(['unmask', 'blur', 'turn', 'tracking', 'flicker', 'count'] as const),
] as const;
export type ArrivalKind = (typeof ARRIVAL_KINDS)[number];

export interface Arrival {
  kind: ArrivalKind;
  frames: number;
  /** Of a title's letters while they are not there; missing: their own. */
  colour?: string;
}

/** What of a title arrives by itself. */
export const TITLE_PARTS = ['line', 'word', 'letter'] as const;
export const PART_ORDERS = ['forward', 'back', 'middle', 'random'] as const;

/** A title whose parts come one after the other. */
export interface PartByPart {
  part: (typeof TITLE_PARTS)[number];
  order: (typeof PART_ORDERS)[number];
  /** How much of a part's arrival the next one shares with it, 0..1. */
  overlap: number;
  seed: number;
  /** Frames of the title at which its parts begin to arrive, in their order; empty: evenly within the arrival. */
  times: number[];
}

/** What a title wears besides its letters; lengths in em. */
export interface TitleDress {
  /** Width of a line round the letters. */
  outline: number;
  outlineColour: string;
  /** 0..1; below the letters by `shadowDown`, as soft as `shadowBlur`. In a light colour and straight below it is a glow. */
  shadow: number;
  shadowColour: string;
  shadowBlur: number;
  shadowDown: number;
  /** 0..1 of a box behind the text. */
  box: number;
  boxColour: string;
  boxPadding: number;
  boxRadius: number;
}

export const ALIGNMENTS = ['left', 'centre', 'right'] as const;

/** A gradient over a text, from its colour. */
export interface TitleFill {
  colour: string;
  /** Degrees, which way it goes: 0 to the right, 90 up. */
  angle: number;
}

/** Letters of a title that are set otherwise than the rest; what is missing is as the title's. */
export interface TextRun {
  /** First letter, and the one after the last. */
  from: number;
  to: number;
  font?: string;
  colour?: string;
  /** Times the title's size. */
  size?: number;
  weight?: number;
  /** Above the line, em of the title. */
  raise?: number;
  /** Added to the title's, em of the title. */
  tracking?: number;
}

/** Footage that is seen through a title's letters, as large as covers them. */
export interface TitleWindow {
  footage: string;
  /** Frame of it at the title's first. */
  first: number;
}

/** What the line of a callout ends in. */
export const CALLOUT_MARKS = ['ring', 'dot', 'none'] as const;

/** A point of a take that a title points at by a line, as it was followed. */
export interface TitleCallout {
  take: string;
  /** Frame of the take at which it was first followed. */
  from: number;
  /** Frame after frame x and y in heights of the take's picture from its middle, y up, and how much of it is seen. */
  track: number[];
  /** Width of the line in em; its colour is the title's. */
  line: number;
  mark: (typeof CALLOUT_MARKS)[number];
  /** The title goes along with the point, as far from it as it is at the title's first frame. */
  rides: boolean;
}

/** A value that titles name in braces. */
export interface PromoVariable {
  name: string;
  value: string;
}

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
  /** Missing: all of it comes at once. */
  parts?: PartByPart;
  /** Missing: plain letters. */
  dress?: TitleDress;
  /** Its letters go from its colour to another; missing: they do not. */
  fill?: TitleFill;
  /** Share of the picture's width that a line may fill; missing: nearly all of it. */
  measure?: number;
  /** Lines of a like length. */
  balanced?: boolean;
  /** Degrees of the arc that it lies on: an arch above 0, a bowl below; missing: it is straight. */
  bend?: number;
  /** Times its size, degrees to the left about its middle, and 0..1; missing: 1, 0 and 1. Its keys are tracks of the promo, whose frames count from its first. */
  scale?: number;
  rotation?: number;
  opacity?: number;
  /** Weight 1..1000 and width in percent, of variable fonts; missing: 400 and 100. */
  weight?: number;
  stretch?: number;
  /** From line to line, em; missing: 1.15. */
  leading?: number;
  /** Pairs of letters stand as far from each other as any others. */
  unkerned?: boolean;
  /** In their order, none over another; missing: all letters are alike. */
  runs?: TextRun[];
  /** Missing: letters have their colour. */
  window?: TitleWindow;
  /** Id of the stroke that its letters go along; missing: none. */
  along?: string;
  /** Missing: it points at nothing. */
  callout?: TitleCallout;
}
