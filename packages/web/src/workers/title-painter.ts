import CanvasKitInit from 'canvaskit-wasm';
import canvasKitUrl from 'canvaskit-wasm/bin/canvaskit.wasm?url';
import { TITLE_FONTS, TitlePainter } from '@tender-orbit/core/promo';

/** Draws text in a worker, with the fonts that the server has. */
export async function openTitlePainter(): Promise<TitlePainter> {
  const init = CanvasKitInit as unknown as (options: { locateFile: () => string }) => ReturnType<typeof CanvasKitInit>;
  const ck = await init({ locateFile: () => canvasKitUrl });
  const fonts = new Map<string, ArrayBuffer>();
  await Promise.all(
    TITLE_FONTS.flatMap((f) => f.files).map(async (file) => {
      const response = await fetch(`/api/fonts/${file}`);
      if (response.ok) fonts.set(file, await response.arrayBuffer());
    }),
  );
  return new TitlePainter(ck, fonts);
}
