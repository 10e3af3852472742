import type { Command } from '../edit.ts';
import { dropTracks } from './clip-commands.ts';
import { overlayTracks } from './overlay-values.ts';
import type { PromoDocument, PromoOverlay } from './types.ts';

type PromoCommand = Command<PromoDocument>;

/** Takes a piece of footage away with the overlays that show it; clips keep their time and are black. */
export function removeFootage(id: string): PromoCommand {
  return {
    label: 'Remove footage',
    run: (promo) => {
      promo.footage = promo.footage.filter((f) => f.id !== id);
      const gone = new Set(promo.overlays.filter((o) => o.footage === id).map((o) => o.id));
      promo.overlays = promo.overlays.filter((o) => !gone.has(o.id));
      dropTracks(promo, (thing) => gone.has(thing));
    },
  };
}

export function addOverlay(overlay: PromoOverlay, name: string): PromoCommand {
  return { label: `Add ${name}`, run: (promo) => void promo.overlays.push(overlay) };
}

/** Changes an overlay. Where its beginning is trimmed its keys stay where they are in the promo. */
export function changeOverlay(id: string, label: string, values: Partial<Omit<PromoOverlay, 'id'>>): PromoCommand {
  return {
    label,
    run: (promo) => {
      const overlay = promo.overlays.find((o) => o.id === id);
      if (!overlay) return;
      const trimmed = values.start !== undefined && values.length !== undefined ? values.start - overlay.start : 0;
      Object.assign(overlay, values);
      // What is taken away is missing, and not there as nothing.
      for (const [name, value] of Object.entries(values))
        if (value === undefined) delete (overlay as unknown as Record<string, unknown>)[name];
      if (trimmed !== 0) for (const { keys } of overlayTracks(promo, id)) for (const key of keys) key.frame -= trimmed;
    },
  };
}

/** Lays an overlay over all others, or below them. */
export function carryOverlay(id: string, to: 'front' | 'back'): PromoCommand {
  return {
    label: to === 'front' ? 'Bring overlay to the front' : 'Send overlay to the back',
    run: ({ overlays }) => {
      const from = overlays.findIndex((o) => o.id === id);
      if (from >= 0) overlays.splice(to === 'front' ? overlays.length : 0, 0, ...overlays.splice(from, 1));
    },
  };
}

export function deleteOverlay(id: string): PromoCommand {
  return {
    label: 'Delete overlay',
    run: (promo) => {
      promo.overlays = promo.overlays.filter((o) => o.id !== id);
      dropTracks(promo, (thing) => thing === id);
    },
  };
}
