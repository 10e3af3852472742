import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import CanvasKitInit, { type CanvasKit } from 'canvaskit-wasm';
import { fontModule, ownFontAsset, TITLE_FONTS, TitlePainter } from '@tender-orbit/core/promo';

const require = createRequire(import.meta.url);

/** Path of a font file named in TITLE_FONTS; null for names that are not in it or not shipped. */
export function fontPath(file: string): string | null {
  if (!TITLE_FONTS.some((f) => f.files.includes(file))) return null;
  const { module, path: within } = fontModule(file);
  const path = require.resolve(`${module}/package.json`).replace('package.json', within);
  return existsSync(path) ? path : null;
}

/**
 * A painter with the fonts that any text falls back to, which gets others as texts need them.
 * @param own files of fonts that were brought, by hash.
 */
export async function openTitlePainter(own: Readonly<Record<string, string>> = {}): Promise<TitlePainter> {
  const ck: CanvasKit = await (CanvasKitInit as unknown as () => Promise<CanvasKit>)();
  const read = async (file: string): Promise<ArrayBuffer | null> => {
    const asset = ownFontAsset(file);
    const path = asset ? own[asset] : fontPath(file);
    return path ? new Uint8Array(await readFile(path)).buffer : null;
  };
  const painter = new TitlePainter(ck, new Map(), read);
  await painter.need([]);
  return painter;
}
