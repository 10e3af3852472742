import { SOUND_KIT, type KitKind, type Strip } from '../../audio/index.ts';
import type {
  Footage,
  Mixer,
  OwnSound,
  Pace,
  PartByPart,
  PromoDocument,
  PromoOverlay,
  PromoSound,
  Title,
  TitleDress,
  Transition,
} from './types.ts';

export function newPromo(name: string, width: number, height: number): PromoDocument {
  return {
    ...{ version: 5, name, width, height, clips: [], titles: [], music: null, sounds: [], footage: [], overlays: [] },
    ...{ markers: [], layers: [], tracks: [], eases: [] },
  };
}

export function newTitle(id: string, values: Partial<Title> = {}): Title {
  return {
    id,
    text: 'Title',
    font: 'fraunces-600',
    size: 64,
    tracking: 0,
    colour: '#ECE7F2',
    x: 0.5,
    y: 0.8,
    align: 'centre',
    start: 0,
    length: 48,
    arrive: { kind: 'fade', frames: 10 },
    leave: { kind: 'fade', frames: 10 },
    ...values,
  };
}

export function newTransition(kind: Transition['kind'], frames: number): Transition {
  return { kind, frames, angle: 0, softness: 0.1, colour: '#000000' };
}

export function newPace(): Pace {
  return { from: 1, to: 1, reverse: false, between: 'blend' };
}

/** A row of a mixer that changes nothing. */
export function newStrip(): Strip {
  return {
    ...{ gain: 0, pan: 0, low: 0, middle: 0, high: 0 },
    ...{ threshold: 0, ratio: 3, attack: 0.01, release: 0.15, hall: 0, muted: false },
  };
}

export function newMixer(): Mixer {
  return { music: newStrip(), sounds: newStrip(), all: newStrip() };
}

export function newParts(part: PartByPart['part']): PartByPart {
  return { part, order: 'forward', overlap: 0.5, seed: 1, times: [] };
}

/** Nothing yet, in colours that suit most pictures. */
export function newDress(): TitleDress {
  return {
    ...{ outline: 0, outlineColour: '#1B0F1E' },
    ...{ shadow: 0, shadowColour: '#000000', shadowBlur: 0.25, shadowDown: 0.05 },
    ...{ box: 0, boxColour: '#1B0F1E', boxPadding: 0.35, boxRadius: 0.2 },
  };
}

/** A sound of the kit as it usually is, its accent on a frame. */
export function newKitSound(id: string, kind: KitKind, at: number, values: Partial<PromoSound> = {}): PromoSound {
  const { name, seconds } = SOUND_KIT[kind];
  return {
    ...{ id, name, at, gain: 0, pan: 0, panTo: 0, fadeIn: 0, fadeOut: 0, duck: 0, on: true },
    source: { kind: 'made', sound: { kind, seconds, pitch: 0, weight: 0.5, seed: 1 } },
    ...values,
  };
}

/** A whole sound file from a frame on. */
export function newFileSound(
  id: string,
  { asset, name, seconds }: { asset: string; name: string; seconds: number },
  at: number,
): PromoSound {
  return {
    ...{ id, name, at, gain: 0, pan: 0, panTo: 0, fadeIn: 0, fadeOut: 0.05, duck: 0, on: true },
    source: { kind: 'file', asset, trim: 0, seconds },
  };
}

/** As loud as it is, at its own pitch. */
export const newOwnSound = (): OwnSound => ({ gain: 0, pitch: 'kept' });

/** A piece of footage, or a take at the promo's rate, over the middle of the picture, at its own speed. @param rate of the promo, frames a second. */
export function newOverlay(
  id: string,
  footage: Pick<Footage, 'id' | 'frames' | 'rate'>,
  rate: number,
  values: Partial<PromoOverlay> = {},
): PromoOverlay {
  return {
    ...{ id, footage: footage.id, first: 0, speed: footage.frames > 1 ? footage.rate / rate : 0 },
    ...{ start: 0, length: 48, x: 0.5, y: 0.5, size: 0.3, rotation: 0, opacity: 1 },
    arrive: { kind: 'fade', frames: 10 },
    leave: { kind: 'fade', frames: 10 },
    ...values,
  };
}
