import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import CanvasKitInit, { type CanvasKit } from 'canvaskit-wasm';
import { TITLE_FONTS, TitlePainter } from '@tender-orbit/core/promo';

const require = createRequire(import.meta.url);

/** Path of a font file named in TITLE_FONTS; null for names that are not in it or not shipped. */
export function fontPath(file: string): string | null {
  if (!TITLE_FONTS.some((f) => f.files.includes(file))) return null;
  const [family, ...rest] = file.split('/');
  const path = require.resolve(`@fontsource/${family}/package.json`).replace('package.json', rest.join('/'));
  return existsSync(path) ? path : null;
}

/** A painter with every shipped font. */
export async function openTitlePainter(): Promise<TitlePainter> {
  const ck: CanvasKit = await (CanvasKitInit as unknown as () => Promise<CanvasKit>)();
  const fonts = new Map<string, ArrayBuffer>();
  for (const file of TITLE_FONTS.flatMap((f) => f.files)) {
    const path = fontPath(file);
    if (path) fonts.set(file, new Uint8Array(readFileSync(path)).buffer);
  }
  return new TitlePainter(ck, fonts);
}
