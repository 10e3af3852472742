import type { PromoDocument, Title } from './types.ts';

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
