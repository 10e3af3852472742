import type { FrameRate } from '../time/index.ts';
import type { Finish } from '../finish/index.ts';
import type { ProductDocument } from './product-types.ts';

/** Metres, +Y up. */
export type Point = [number, number, number];

/** A lighting set-up that was kept: as it stood round a product of `radius`, seen from the camera's direction. */
export interface SavedKit {
  id: string;
  name: string;
  lights: SetLight[];
  cards: CardSurface[];
  /** Luminance of the room, cd/m2. */
  room: number;
  /** What it stood round: middle, half of its diagonal, direction of the camera in degrees. */
  centre: Point;
  radius: number;
  cameraTurn: number;
}

/** One job for one client. */
export interface CampaignDocument {
  version: 2;
  name: string;
  client: string;
  /** What the promo must say and to whom. */
  message: string;
  notes: string;
  frameRate: FrameRate;
  width: number;
  height: number;
  kits: SavedKit[];
}

export interface SetProduct {
  id: string;
  name: string;
  /** Id of the product, and of its variant; empty for its first. */
  product: string;
  variant: string;
  position: Point;
  /** Degrees about the vertical, then about the turned X, then the tilted Z. */
  turn: number;
  tilt: number;
  roll: number;
  /** Times its real size. */
  scale: number;
  /** Id of the surface or product it stands on when seated; empty is the floor. */
  standsOn: string;
  group: string;
  locked: boolean;
  /** When true the lowest point touches the floor and position[1] is a lift above it. */
  seated: boolean;
  visible: boolean;
  seenBy: SeenBy;
}

/** Which rays meet a thing: those of the camera, of mirrors and glass, of shadows, and of light bounced off matt things. */
export interface SeenBy {
  camera: boolean;
  reflections: boolean;
  shadows: boolean;
  lighting: boolean;
}

interface SurfaceLook {
  id: string;
  name: string;
  /** sRGB hex. */
  colour: string;
  roughness: number;
  /** A whole finish in the place of colour and roughness; null for those. */
  finish: Finish | null;
  visible: boolean;
  seenBy: SeenBy;
  /** Things of the same group move together; empty for none. */
  group: string;
  /** A locked thing is not moved by dragging. */
  locked: boolean;
}

/** A floor that curves up into a wall behind. */
export interface SweepSurface extends SurfaceLook {
  kind: 'sweep';
  width: number;
  depth: number;
  height: number;
  radius: number;
  /** Mirror image on the floor besides what its finish reflects: strength 0..1, blur 0..1, and metres up to which it reaches (0: endless). */
  mirror: { strength: number; blur: number; reach: number };
  /** Only the shadows and mirror images that fall on it are in the picture: for laying over other footage. */
  catcher: boolean;
}

/** A flat panel: black it is a flag that takes light away, white it bounces some back. */
export interface CardSurface extends SurfaceLook {
  kind: 'card';
  width: number;
  height: number;
  position: Point;
  aim: Point;
}

export const BLOCK_FORMS = ['floor', 'wall', 'plinth', 'drum', 'steps', 'tabletop', 'panel'] as const;
export type BlockForm = (typeof BLOCK_FORMS)[number];

/** A body to stand things on or before: its place is the middle of its base. */
export interface BlockSurface extends SurfaceLook {
  kind: 'block';
  form: BlockForm;
  width: number;
  height: number;
  depth: number;
  /** Radius of rounded edges; of a tabletop's corners. */
  bevel: number;
  /** How many steps a flight has. */
  steps: number;
  position: Point;
  turn: number;
}

export type SetSurface = SweepSurface | CardSurface | BlockSurface;

export type LightRole = 'key' | 'fill' | 'rim' | 'top' | 'background';
export const LIGHT_SHAPES = ['softbox', 'disc', 'sphere', 'spot', 'point', 'sun'] as const;
export type LightShape = (typeof LIGHT_SHAPES)[number];
/** How the brightness of a softbox or disc runs over its face. */
export const GRADIENTS = ['even', 'round', 'across', 'down'] as const;
export type Gradient = (typeof GRADIENTS)[number];
export const GOBO_PATTERNS = ['none', 'blinds', 'window', 'leaves', 'dots', 'breakup'] as const;
export type GoboPattern = (typeof GOBO_PATTERNS)[number];

/** A cut-out slide in front of a light. Metres. */
export interface Gobo {
  pattern: GoboPattern;
  distance: number;
  width: number;
  height: number;
  /** How many times the pattern fits. */
  repeat: number;
  seed: number;
}

/** Which things a light touches. */
export interface Touches {
  mode: 'all' | 'only' | 'except';
  things: string[];
}

export interface SetLight {
  id: string;
  name: string;
  role: LightRole;
  shape: LightShape;
  /** Of a softbox; for discs, spheres and spots the width is the diameter. */
  width: number;
  height: number;
  position: Point;
  aim: Point;
  kelvin: number;
  /** Lumens; for a sun lux on what faces it. */
  lumens: number;
  on: boolean;
  /** Whether the camera sees the light itself; reflections always do. */
  seen: boolean;
  /** Degrees off axis at which a honeycomb on the front cuts off; 0: none. */
  spread: number;
  /** Full angle in degrees of a spot's beam; apparent size of a sun. */
  cone: number;
  /** Share of a spot's beam that fades out, 0..1. */
  softness: number;
  gradient: Gradient;
  gobo: Gobo;
  touches: Touches;
  group: string;
  locked: boolean;
  /** sRGB hex that it is marked with in lists and on the plan. */
  mark: string;
}

export const ROOM_KINDS = [
  'studio',
  'softboxes',
  'window',
  'tent',
  'strips',
  'dusk',
  'overcast',
  'ring',
  'drawn',
  'file',
] as const;
/** What lights the set from all round: rooms made by code, one drawn from softboxes, or a panorama file. */
export type RoomKind = (typeof ROOM_KINDS)[number];

/** A softbox drawn on the panorama. Degrees; azimuth 0 is in front (+Z), growing to the right. */
export interface DrawnBox {
  id: string;
  azimuth: number;
  elevation: number;
  width: number;
  height: number;
  /** Against the room's own wall, which is 1. */
  brightness: number;
  kelvin: number;
  /** Share of it that fades out, 0..1. */
  softness: number;
}

export interface Room {
  kind: RoomKind;
  /** SHA-256 of a panorama, Radiance .hdr; empty without. */
  asset: string;
  boxes: DrawnBox[];
}

export interface EnvironmentLight {
  room: Room;
  id: 'environment';
  /** Mean luminance in cd/m2. */
  intensity: number;
  /** Degrees about the vertical. */
  rotation: number;
  /** Whether the camera sees the room behind the set. */
  seen: boolean;
}

export interface SetCamera {
  id: string;
  name: string;
  position: Point;
  aim: Point;
  /** mm. */
  focalLength: number;
  sensorWidth: number;
  /** 0 is a pinhole: everything sharp. */
  fNumber: number;
  /** Metres; 0 focuses on the aim point. */
  focus: number;
  /** Id of a thing whose middle is kept in focus; empty: by `focus`. */
  focusOn: string;
  exposure: number;
  /** Edges of the aperture; 0: round. */
  blades: number;
  /** How far the lens is shifted, in picture widths and heights: keeps verticals straight. */
  shiftX: number;
  shiftY: number;
  /** Shutter angle in degrees: 180 keeps it open for half a frame, 0 freezes all motion. */
  shutter: number;
}

/** How scene light becomes display values. */
export const VIEW_TRANSFORMS = ['neutral', 'filmic', 'plain'] as const;
export type ViewTransform = (typeof VIEW_TRANSFORMS)[number];

export interface SetDocument {
  version: 3;
  name: string;
  products: SetProduct[];
  surfaces: SetSurface[];
  lights: SetLight[];
  environment: EnvironmentLight;
  cameras: SetCamera[];
  view: ViewTransform;
}

export type Ease = 'eased' | 'linear' | 'hold';

/** `ease` rules the span from this key to the next. */
export interface Key {
  frame: number;
  value: number;
  ease: Ease;
}

/** All keys of one number: `thing` is an id in the set, `path` a property path in it, e.g. `position.1`. */
export interface Track {
  thing: string;
  path: string;
  keys: Key[];
}

export interface ShotDocument {
  version: 1;
  name: string;
  /** Ids of the set and, in it, the camera. */
  set: string;
  camera: string;
  /** Frames. */
  length: number;
  seed: number;
  tracks: Track[];
}

export type ArrivalKind = 'none' | 'fade' | 'rise' | 'slide';

export interface Arrival {
  kind: ArrivalKind;
  frames: number;
}

export interface Clip {
  id: string;
  /** Id of the take; empty while none is chosen. */
  take: string;
  /** First frame of the take that is used. */
  start: number;
  /** Frames in the promo; past the take's end its last frame stays. */
  length: number;
}

export interface Title {
  id: string;
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
  align: 'left' | 'centre' | 'right';
  start: number;
  length: number;
  arrive: Arrival;
  leave: Arrival;
}

export interface MusicUse {
  /** SHA-256 of the music file. */
  asset: string;
  name: string;
  /** Seconds into the music at the promo's first frame. */
  trim: number;
  gain: number;
  fadeIn: number;
  fadeOut: number;
  /** Beats per minute, and seconds into the file of the first downbeat. 0 bpm: no beats known. */
  tempo: number;
  firstBeat: number;
}

export interface PromoDocument {
  version: 1;
  name: string;
  width: number;
  height: number;
  clips: Clip[];
  titles: Title[];
  music: MusicUse | null;
}

export interface DocumentKinds {
  campaign: CampaignDocument;
  product: ProductDocument;
  set: SetDocument;
  shot: ShotDocument;
  promo: PromoDocument;
}

export type DocumentKind = keyof DocumentKinds;
export const DOCUMENT_KINDS: readonly DocumentKind[] = ['campaign', 'product', 'set', 'shot', 'promo'];

export type TakeQuality = 'clay' | 'draft' | 'final';
