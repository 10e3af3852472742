import { number, propertiesOf, share, type NumberProperty } from '../../properties/index.ts';
import type { Track } from '../shot/index.ts';
import type { PromoDocument, PromoOverlay } from './types.ts';

/** Values of an overlay that keys can hold, by the paths of its tracks: their frames count from the overlay's first. */
export interface OverlayValues {
  x: number;
  y: number;
  size: number;
  rotation: number;
  opacity: number;
  radius: number;
  cropLeft: number;
  cropRight: number;
  cropTop: number;
  cropBottom: number;
}
export type OverlayPath = keyof OverlayValues;

const cut = (label: string): NumberProperty => share(label, { usual: 0 });

/** What fields and keys of an overlay allow. */
export const OVERLAY_PROPERTIES: Record<OverlayPath, NumberProperty> = propertiesOf<OverlayValues>()({
  x: share('Across', { min: -2, max: 3, usual: 0.5 }),
  y: share('Down', { min: -2, max: 3, usual: 0.5 }),
  size: share('Height', { min: 0.01, max: 10 }),
  rotation: number('Rotation', 'deg', -3600, 3600, { usual: 0 }),
  opacity: share('Opacity', { usual: 1 }),
  radius: share('Corner radius', { max: 0.5, usual: 0 }),
  cropLeft: cut('Crop left'),
  cropRight: cut('Crop right'),
  cropTop: cut('Crop top'),
  cropBottom: cut('Crop bottom'),
});

export const OVERLAY_PATHS = Object.keys(OVERLAY_PROPERTIES) as readonly OverlayPath[];

/** Values of an overlay as it says them, whatever its keys hold. */
export function ownOverlayValues(overlay: PromoOverlay): OverlayValues {
  const { x, y, size, rotation, opacity, radius = 0 } = overlay;
  const { cropLeft = 0, cropRight = 0, cropTop = 0, cropBottom = 0 } = overlay;
  return { x, y, size, rotation, opacity, radius, cropLeft, cropRight, cropTop, cropBottom };
}

/** Keys of an overlay's values. */
export function overlayTracks({ tracks }: Pick<PromoDocument, 'tracks'>, id: string): Track[] {
  return tracks.filter((t) => t.thing === id && (OVERLAY_PATHS as readonly string[]).includes(t.path));
}
