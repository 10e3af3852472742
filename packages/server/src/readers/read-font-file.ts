import { readFile } from 'node:fs/promises';
import CanvasKitInit, { type CanvasKit } from 'canvaskit-wasm';
import { Problem } from '@tender-orbit/core/problem';

export interface FontTask {
  kind: 'font';
  fileName: string;
  path: string;
}

export interface FontRead {
  /** As the font calls itself. */
  name: string;
}

/** Reads a font as titles do. @throws Problem `font/broken` when they could not draw with it. */
export async function readFontFile({ fileName, path }: FontTask): Promise<FontRead> {
  const ck = await (CanvasKitInit as unknown as () => Promise<CanvasKit>)();
  const bytes = new Uint8Array(await readFile(path)).buffer;
  const face = ck.Typeface.MakeTypefaceFromData(bytes);
  const drawn = face?.getGlyphIDs('Aa0אあ한अαя').some((glyph) => glyph > 0) ?? false;
  face?.delete();
  if (!drawn)
    throw new Problem(
      'font/broken',
      `"${fileName}" could not be read as a font: bring a TTF, OTF, WOFF or WOFF2 file.`,
      fileName,
    );
  const fonts = ck.FontMgr.FromData(bytes);
  const family = fonts?.getFamilyName(0) ?? '';
  fonts?.delete();
  return { name: family.trim().slice(0, 80) || fileName.replace(/\.[^.]*$/, '').slice(0, 80) };
}
