import { shallowReactive } from 'vue';

/** Small pictures of models, kept in the browser by model hash: a model never changes under its hash. */
const thumbs = shallowReactive(new Map<string, string>());
const SIDE = 88;
const name = (model: string): string => `tender-orbit:thumb:${model}`;

export function thumbOf(model: string): string | null {
  if (!thumbs.has(model)) {
    let stored: string | null = null;
    try {
      stored = localStorage.getItem(name(model));
    } catch {
      // Without storage the pictures last as long as the page.
    }
    if (stored) thumbs.set(model, stored);
  }
  return thumbs.get(model) ?? null;
}

/** Keeps the middle square of what a viewer shows. */
export function keepThumb(model: string, canvas: HTMLCanvasElement): void {
  const side = Math.min(canvas.width, canvas.height);
  if (side < 8) return;
  const small = document.createElement('canvas');
  small.width = small.height = SIDE;
  small
    .getContext('2d')!
    .drawImage(canvas, (canvas.width - side) / 2, (canvas.height - side) / 2, side, side, 0, 0, SIDE, SIDE);
  const picture = small.toDataURL('image/webp', 0.85);
  thumbs.set(model, picture);
  try {
    localStorage.setItem(name(model), picture);
  } catch {
    // See thumbOf().
  }
}
