import type { ClipMove, Pace, PartByPart, PromoDocument, Title, TitleDress, Transition } from './types.ts';

export function newPromo(name: string, width: number, height: number): PromoDocument {
  return { version: 2, name, width, height, clips: [], titles: [], music: null };
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

/** A slow push, which is what most clips get. */
export function newMove(): ClipMove {
  const rest = { x: 0, y: 0, scale: 1, rotation: 0 };
  return { from: rest, to: { ...rest, scale: 1.08 }, ease: 'linear', cover: true };
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
