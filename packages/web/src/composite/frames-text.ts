import type { FrameChoice } from '@tender-orbit/core/document';

/** What frames of a shot are rendered, in words; frames count from 1. */
export function framesText({ first, last, step }: FrameChoice): string {
  if (first === last) return `frame ${first + 1} alone, held`;
  const span = `frames ${first + 1} to ${last + 1}`;
  return step > 1 ? `${span} at half rate` : `${span}, held before and after`;
}
