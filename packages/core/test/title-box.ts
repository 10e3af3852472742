import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import CanvasKitInit, { type CanvasKit } from 'canvaskit-wasm';
import { fontModule, ownFontAsset, TITLE_FONTS, TitlePainter } from '@tender-orbit/core/promo';

const require = createRequire(import.meta.url);

/** A font file that ships. */
export function readFont(file: string): ArrayBuffer {
  const { module, path: within } = fontModule(file);
  const path = require.resolve(`${module}/package.json`).replace('package.json', within);
  return new Uint8Array(readFileSync(path)).buffer;
}

/**
 * Draws titles with the fonts that ship with the application.
 * @param own gets fonts that were brought; left out: there are none.
 */
export async function openPainter(own: (file: string) => ArrayBuffer | null = () => null): Promise<TitlePainter> {
  const ck: CanvasKit = await CanvasKitInit({ locateFile: (f: string) => require.resolve(`canvaskit-wasm/bin/${f}`) });
  const painter = new TitlePainter(ck, new Map(), async (file) => (ownFontAsset(file) ? own(file) : readFont(file)));
  await painter.need(TITLE_FONTS.map(({ id }) => ({ font: id, text: '' })));
  return painter;
}
