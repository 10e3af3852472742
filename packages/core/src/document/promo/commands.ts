import { shortened } from '../../text/index.ts';
import type { Command } from '../edit.ts';
import type { Clip, MusicUse, PromoDocument, Title } from './types.ts';

type PromoCommand = Command<PromoDocument>;

export function renamePromo(name: string): PromoCommand {
  return { label: 'Rename promo', run: (promo) => void (promo.name = shortened(name, 120)) };
}

export function addClip(clip: Clip, name: string): PromoCommand {
  return { label: `Add ${name}`, run: (promo) => void promo.clips.push(clip) };
}

export function changeClip(id: string, label: string, values: Partial<Omit<Clip, 'id'>>): PromoCommand {
  return { label, run: (promo) => void Object.assign(promo.clips.find((c) => c.id === id) ?? {}, values) };
}

/** Carries a clip to the place in the cut that another clip has now. */
export function carryClip(id: string, to: number): PromoCommand {
  return {
    label: 'Reorder clips',
    run: ({ clips }) => {
      const from = clips.findIndex((c) => c.id === id);
      if (from >= 0) clips.splice(to, 0, ...clips.splice(from, 1));
    },
  };
}

export function deleteClip(id: string): PromoCommand {
  return { label: 'Delete clip', run: (promo) => void (promo.clips = promo.clips.filter((c) => c.id !== id)) };
}

export function addTitle(title: Title): PromoCommand {
  return { label: 'Add title', run: (promo) => void promo.titles.push(title) };
}

export function changeTitle(id: string, label: string, values: Partial<Omit<Title, 'id'>>): PromoCommand {
  return { label, run: (promo) => void Object.assign(promo.titles.find((t) => t.id === id) ?? {}, values) };
}

export function deleteTitle(id: string): PromoCommand {
  return { label: 'Delete title', run: (promo) => void (promo.titles = promo.titles.filter((t) => t.id !== id)) };
}

/** Puts music under the promo, from its beginning; what was said of other music does not hold for it. */
export function bringMusic({ asset, name, peaks }: Pick<MusicUse, 'asset' | 'name' | 'peaks'>): PromoCommand {
  return {
    label: 'Bring music',
    run: (promo) => {
      promo.music = {
        trim: 0,
        gain: 0,
        fadeIn: 0,
        fadeOut: 1,
        tempo: 0,
        firstBeat: 0,
        ...noBeats(),
        asset,
        name,
        ...(peaks && { peaks }),
      };
    },
  };
}

/** Even beats: none is known by itself. */
export function noBeats(): Pick<MusicUse, 'beats' | 'beatsPerBar' | 'downbeat' | 'sections'> {
  return { beats: [], beatsPerBar: 4, downbeat: 0, sections: [] };
}

export function changeMusic(label: string, values: Partial<MusicUse>): PromoCommand {
  return { label, run: (promo) => void (promo.music && Object.assign(promo.music, values)) };
}

export function removeMusic(): PromoCommand {
  return { label: 'Remove music', run: (promo) => void (promo.music = null) };
}
