import type { Strip } from '../../audio/index.ts';
import { shortened } from '../../text/index.ts';
import { dropTracks } from './clip-commands.ts';
import { newMixer } from './defaults.ts';
import type { Command } from '../edit.ts';
import {
  FASTEST_PACE,
  type Footage,
  type Marker,
  type Mixer,
  type MusicUse,
  type PromoDocument,
  type PromoSound,
  type PromoVariable,
  type SoundSource,
} from './types.ts';

type PromoCommand = Command<PromoDocument>;

export function renamePromo(name: string): PromoCommand {
  return { label: 'Rename promo', run: (promo) => void (promo.name = shortened(name, 120)) };
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

/** Changes the music's use; what is given as undefined goes. */
export function changeMusic(label: string, values: Partial<MusicUse>): PromoCommand {
  return {
    label,
    run: ({ music }) => {
      if (!music) return;
      const kept = music as unknown as Record<string, unknown>;
      for (const [key, value] of Object.entries(values))
        if (value === undefined) delete kept[key];
        else kept[key] = value;
    },
  };
}

export function removeMusic(): PromoCommand {
  return { label: 'Remove music', run: (promo) => void (promo.music = null) };
}

export function addSounds(sounds: readonly PromoSound[], label: string): PromoCommand {
  return { label, run: (promo) => void promo.sounds.push(...sounds) };
}

export function changeSound(
  id: string,
  label: string,
  values: Partial<Omit<PromoSound, 'id' | 'source'>>,
): PromoCommand {
  return { label, run: (promo) => void Object.assign(promo.sounds.find((s) => s.id === id) ?? {}, values) };
}

/** Changes numbers of what a sound is made of; those that its kind of source does not have are left alone. */
export function changeSource(id: string, label: string, values: Record<string, number>): PromoCommand {
  return {
    label,
    run: ({ sounds }) => {
      const source: SoundSource | undefined = sounds.find((s) => s.id === id)?.source;
      if (!source) return;
      const owner = (source.kind === 'made' ? source.sound : source) as unknown as Record<string, unknown>;
      for (const [key, value] of Object.entries(values)) if (typeof owner[key] === 'number') owner[key] = value;
    },
  };
}

export function deleteSound(id: string): PromoCommand {
  return {
    label: 'Delete sound',
    run: (promo) => {
      promo.sounds = promo.sounds.filter((s) => s.id !== id);
      dropTracks(promo, (thing) => thing === id);
    },
  };
}

export function addFootage(footage: Footage): PromoCommand {
  return { label: `Bring ${footage.name}`, run: (promo) => void promo.footage.push(footage) };
}

/**
 * Keeps the time of everything when a second gets `factor` times as many frames. Takes keep the frames that they were rendered
 * with, so clips play them at another pace.
 */
export function retimePromo(factor: number): PromoCommand {
  const frames = (count: number): number => Math.round(count * factor);
  // As fine as is ever seen, so that a rate chosen back gives the very same pace.
  const paced = (speed: number): number => Math.min(FASTEST_PACE, Number((speed / factor).toFixed(9)));
  return {
    label: 'Keep times',
    run: ({ clips, titles, sounds, overlays, layers, tracks, markers }) => {
      let at = 0;
      for (const marker of markers) Object.assign(marker, { at: frames(marker.at), length: frames(marker.length) });
      for (const layer of layers) {
        const end = layer.length > 0 ? frames(layer.start + layer.length) : 0;
        layer.start = frames(layer.start);
        layer.length = layer.length > 0 ? Math.max(1, end - layer.start) : 0;
      }
      // Keys may lie between frames, so none is lost where two come close.
      for (const track of tracks) for (const key of track.keys) key.frame *= factor;
      for (const sound of sounds) sound.at = frames(sound.at);
      for (const clip of clips) {
        const pace = clip.pace ?? { from: 1, to: 1, reverse: false, between: 'nearest' };
        const [from, to] = [paced(pace.from), paced(pace.to)];
        // Cuts are rounded, not lengths: these would drift off the beats one after the other.
        const [begin, end] = [frames(at), frames(at + clip.length)];
        at += clip.length;
        const last = clip.length - 1;
        clip.length = Math.max(1, end - begin);
        for (const { thing, keys } of tracks)
          if (thing === clip.id) for (const key of keys) if (key.frame === last * factor) key.frame = clip.length - 1;
        if (clip.into) clip.into.frames = Math.max(1, frames(clip.into.frames));
        // Back at the rate of its take a clip is plain again.
        const points = pace.points?.map((point) => ({ ...point, at: point.at * factor, speed: paced(point.speed) }));
        const plain = from === 1 && to === 1 && !pace.reverse && !points;
        if (plain) delete clip.pace;
        else clip.pace = { ...pace, from, to, ...(points && { points }) };
      }
      for (const shown of [...titles, ...overlays]) {
        const end = frames(shown.start + shown.length);
        shown.start = frames(shown.start);
        shown.length = Math.max(1, end - shown.start);
        for (const way of [shown.arrive, shown.leave]) way.frames = frames(way.frames);
      }
      for (const overlay of overlays) overlay.speed = paced(overlay.speed);
      for (const title of titles) {
        if (title.parts) title.parts.times = title.parts.times.map((time) => frames(time));
      }
    },
  };
}

export function addMarker(marker: Marker): PromoCommand {
  return { label: marker.length > 0 ? 'Add note' : 'Add marker', run: (promo) => void promo.markers.push(marker) };
}

export function changeMarker(id: string, label: string, values: Partial<Omit<Marker, 'id'>>): PromoCommand {
  return { label, run: (promo) => void Object.assign(promo.markers.find((m) => m.id === id) ?? {}, values) };
}

export function deleteMarker(id: string): PromoCommand {
  return { label: 'Delete marker', run: (promo) => void (promo.markers = promo.markers.filter((m) => m.id !== id)) };
}

/** Sets values of a row of the mixer. */
export function changeStrip(row: keyof Mixer, label: string, values: Partial<Strip>): PromoCommand {
  return {
    label,
    run: (promo) => {
      const mixer = promo.mixer ?? newMixer();
      promo.mixer = { ...mixer, [row]: { ...mixer[row], ...values } };
    },
  };
}

export function clearMixer(): PromoCommand {
  return { label: 'Mixer as it comes', run: (promo) => void delete promo.mixer };
}

export function setVariables(variables: readonly PromoVariable[]): PromoCommand {
  return {
    label: 'Change variables',
    run: (promo) => {
      if (variables.length > 0) promo.variables = [...variables];
      else delete promo.variables;
    },
  };
}
