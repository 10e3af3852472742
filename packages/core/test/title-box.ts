import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import CanvasKitInit, { type CanvasKit } from 'canvaskit-wasm';
import { TITLE_FONTS, TitlePainter } from '@tender-orbit/core/promo';

const require = createRequire(import.meta.url);

/** Draws titles with the fonts that ship with the application. */
export async function openPainter(): Promise<TitlePainter> {
  const ck: CanvasKit = await CanvasKitInit({ locateFile: (f: string) => require.resolve(`canvaskit-wasm/bin/${f}`) });
  const read = async (file: string): Promise<ArrayBuffer> => {
    const [family, ...rest] = file.split('/');
    const path = require.resolve(`@fontsource/${family}/package.json`).replace('package.json', rest.join('/'));
    return new Uint8Array(readFileSync(path)).buffer;
  };
  const painter = new TitlePainter(ck, new Map(), read);
  await painter.need(TITLE_FONTS.map(({ id }) => ({ font: id, text: '' })));
  return painter;
}
