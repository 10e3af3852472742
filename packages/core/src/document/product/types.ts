import type { Finish, MaskStroke, PictureSource } from '../../finish/index.ts';
import type { Item, Point } from '../common.ts';
import type { Builder } from './builders/index.ts';

/** A finish of a product, which its parts and variants refer to. */
export interface ProductFinish extends Finish {
  id: string;
  /** See `Item`. */
  order?: string;
}

/** One mesh of a product; `index` is its place in the model file. */
export interface ProductPart {
  index: number;
  name: string;
  /** Id of one of the product's finishes. */
  finish: string;
  triangles: number;
  visible: boolean;
}

/** A picture of art that can fill label slots: a file that was brought, or a pattern made by code. */
export interface Sheet extends Item {
  picture: PictureSource;
  /** Pixels. */
  width: number;
  height: number;
  /** A film: the stored pictures of its frames, one for each frame of a shot, over and over. `picture` is the first. */
  film?: string[];
}

/** As many frames a film on a product may have. */
export const LONGEST_FILM = 480;

export const PROJECTIONS = ['uv', 'planar', 'round'] as const;
/** How art lands on a part: on its own uv, straight from the front, or wrapped round the vertical axis. */
export type Projection = (typeof PROJECTIONS)[number];

/** Art adjusted on its way to the surface. */
export interface ArtLook {
  /** Brightness that becomes black and white, 0..1. */
  black: number;
  white: number;
  invert: boolean;
  /** sRGB hex that multiplies the art. */
  tint: string;
}

/** A place on the product that a label sheet lands on. */
export interface LabelSlot extends Item {
  /** `index` of the part. */
  part: number;
  projection: Projection;
  /** Middle of a projected label and its size, metres of the model; `turn` and `roll` degrees. Unused for uv. */
  centre: Point;
  turn: number;
  roll: number;
  width: number;
  height: number;
  /** Corner radius of the label's outline as a share of its shorter side, 0..0.5. */
  corner: number;
  /** Where the art lies in the slot: offset in slots, repeats, rotation in degrees. */
  offset: [number, number];
  repeat: [number, number];
  rotation: number;
  /** What of the base finish the art changes besides its colour: roughness (-1 leaves it) and emboss (0 none). */
  colour: boolean;
  roughness: number;
  emboss: number;
  /** What a brush took away of the art, in the label's own u and v. */
  mask?: MaskStroke[];
}

/** What fills a slot in a variant. */
export interface SlotFill {
  slot: string;
  /** Id of a sheet; empty leaves the slot bare. */
  sheet: string;
  look: ArtLook;
}

/** A named combination: what fills the slots, which finish parts have, which parts are shown. */
export interface Variant extends Item {
  fills: SlotFill[];
  /** Parts that have another finish than the product's own; by part `index` and id of the finish. */
  finishes: Array<{ part: number; finish: string }>;
  /** `index` of parts that are hidden besides those the product hides. */
  hidden: number[];
}

export const UNWRAPS = ['file', 'box', 'round'] as const;
/** Where a part's uv comes from: its file, or thrown on it from six sides or wrapped round the vertical axis. */
export type Unwrap = (typeof UNWRAPS)[number];

/** What is put right in a model that was brought, each time it is read; the file itself stays. */
export interface Preparation {
  /** Parts whose uv is made here, by `index`. */
  unwraps: Array<{ part: number; unwrap: Unwrap }>;
  /** Moves the model so that the middle of its base is its origin. */
  toBase: boolean;
  /** Makes normals anew, and turns triangles that look inward, part by part. */
  normals: boolean;
}

/** A moment of one of the animations of a product's file. */
export interface FilePose {
  /** Place in the file's list of animations. */
  animation: number;
  seconds: number;
}

/** What else a product's file brought, so that it can be read again. */
export interface ModelOrigin {
  /** The files that came with it, by the names it calls them. */
  files: Array<{ name: string; asset: string }>;
  animations: Array<{ name: string; seconds: number }>;
  /** What its skins and morph targets stand at; null as the file's nodes stand. */
  pose: FilePose | null;
}

export interface ProductDocument {
  prepare: Preparation;
  version: 3;
  name: string;
  /** File name as the person brought it; empty for a built product. */
  fileName: string;
  /** SHA-256 of the file as brought, and of the model the product is drawn from; empty for a built product. */
  source: string;
  model: string;
  /** Missing for a file that is alone and still, and for a built product. */
  origin?: ModelOrigin;
  /** What a built product is made from; null when it comes from a file. */
  builder: Builder | null;
  /** Metres per unit of the model: corrects a file whose unit is wrong. */
  scale: number;
  /** Size in model units: width, height, depth. */
  extent: Point;
  parts: ProductPart[];
  finishes: ProductFinish[];
  sheets: Sheet[];
  slots: LabelSlot[];
  /** The first is what the product looks like by default; there is always one. */
  variants: Variant[];
}
