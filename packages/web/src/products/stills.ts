import type { Tableau } from '@tender-orbit/core/scene';
import { rememberedPicture, rememberPicture } from './thumbs.ts';
import type { StillReply, StillRequest } from '../workers/still-worker.ts';

const asked = new Set<string>();
/** Pictures of what changes at every edit: they last as long as the page. */
const passing = new Set<string>();
let worker: Worker | null = null;

/**
 * A small traced picture by what it shows; the first time it is asked for it is traced in the background. Pictures are
 * kept in the browser.
 * @param key what tells this picture from others. @param tableau makes what is traced; null while it is not loaded.
 * @param keep also beyond the page's life.
 */
export function stillOf(
  key: string,
  size: { width: number; height: number; samples: number },
  tableau: () => Tableau | null,
  keep = true,
): string | null {
  const name = `still ${hashOf(key)} ${size.width}x${size.height}`;
  const known = rememberedPicture(name);
  if (known || asked.has(name)) return known;
  const made = tableau();
  if (!made) return null;
  asked.add(name);
  if (!keep) passing.add(name);
  worker ??= start();
  // Documents are proxies to Vue, which cannot be posted as they are; what is evaluated from them holds such.
  worker.postMessage({ key: name, tableau: structuredCopy(made), ...size } satisfies StillRequest);
  return null;
}

function start(): Worker {
  const started = new Worker(new URL('../workers/still-worker.ts', import.meta.url), { type: 'module' });
  started.onmessage = ({ data }: MessageEvent<StillReply>) => {
    if (!data.pixels) return;
    const canvas = document.createElement('canvas');
    Object.assign(canvas, { width: data.width, height: data.height });
    const pixels = new Uint8ClampedArray(data.pixels);
    canvas.getContext('2d')!.putImageData(new ImageData(pixels, data.width, data.height), 0, 0);
    rememberPicture(data.key, canvas.toDataURL('image/webp', 0.85), !passing.has(data.key));
  };
  return started;
}

/** A copy without proxies; typed arrays (labels' triangles) are shared. */
function structuredCopy<T>(value: T): T {
  if (ArrayBuffer.isView(value) || typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(structuredCopy) as T;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, structuredCopy(v)])) as T;
}

/** FNV-1a, with the length. */
export function hashOf(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return `${text.length}-${(hash >>> 0).toString(36)}`;
}
