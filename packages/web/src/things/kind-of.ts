import type { SetDocument } from '@tender-orbit/core/document';
import type { ThingKind } from './fields.ts';

/** Which kind of thing an id in a set is. */
export function kindOf(set: SetDocument, id: string): ThingKind | null {
  if (set.products.some((t) => t.id === id)) return 'product';
  if (set.surfaces.some((t) => t.id === id)) return 'surface';
  if (set.lights.some((t) => t.id === id)) return 'light';
  if (set.cameras.some((t) => t.id === id)) return 'camera';
  return id === 'environment' ? 'environment' : null;
}

/** Colour of each kind in lists, plan and time line. */
export const KIND_COLOUR: Record<ThingKind, string> = {
  product: 'var(--bone)',
  surface: 'var(--clay)',
  light: 'var(--honey)',
  environment: 'var(--honey)',
  camera: 'var(--celadon)',
};
