import type { LayerOf, ViewTransform } from '../document/index.ts';
import type { Overlay, Picture } from '../picture/index.ts';
import type { Cube } from './cube.ts';
import type { LightFrame, LightParts } from './light-frame.ts';
import type { VectorPicture } from './vector.ts';

/** Draws text, a stroke or a vector picture: premultiplied sRGB over a picture of the given size. */
export type TextDrawer = (
  layer: LayerOf<'text'> | LayerOf<'stroke'> | LayerOf<'logo'>,
  width: number,
  height: number,
  vector?: VectorPicture | null,
) => Overlay | null;

/** What a frame of a composite is made from besides its layers. */
export interface ComposeInput {
  width: number;
  height: number;
  frame: number;
  /** Of the shot's first frame on. */
  seconds: number;
  view: ViewTransform;
  /** The light of a take's frame, by the take's id; empty: the one that the composite is of. */
  take: (take: string) => LightFrame | null;
  /** The same light by light; null when the take does not keep its lights. */
  parts?: (take: string) => LightParts | null;
  /** Pictures of stills by their hash: sRGB bytes, alpha not premultiplied. */
  still?: (asset: string) => Picture | null;
  /** A table of colours by its file's hash. */
  cube?: (asset: string) => Cube | null;
  /** A vector picture by its file's hash. */
  vector?: (asset: string) => VectorPicture | null;
  /** The picture that footage shows. */
  footage?: (layer: LayerOf<'footage'> & { held?: number }) => Picture | null;
  /** The picture of another shot's composite, by the id of the layer that shows it. */
  nested?: (layer: string) => Picture | null;
  text?: TextDrawer;
}
