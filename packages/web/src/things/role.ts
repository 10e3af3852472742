import { findThing, type SetDocument, type ThingRole } from '@tender-orbit/core/document';

/** What a thing of a set is by its job; null when it is not there. */
export function roleOf(set: SetDocument, id: string): ThingRole | null {
  return findThing(set, id)?.role ?? null;
}

/** Colour of each role in lists, plan and time line. */
export const ROLE_COLOUR: Record<ThingRole, string> = {
  product: 'var(--bone)',
  surface: 'var(--clay)',
  light: 'var(--honey)',
  environment: 'var(--honey)',
  camera: 'var(--celadon)',
  effect: 'var(--violet)',
  null: 'var(--bone-dim)',
};
