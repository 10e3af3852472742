import CanvasKitInit from 'canvaskit-wasm';
import canvasKitUrl from 'canvaskit-wasm/bin/canvaskit.wasm?url';
import { ownFontAsset, TitlePainter } from '@tender-orbit/core/promo';

/** Draws text in a worker, with the fonts that the server has, got as texts need them. */
export async function openTitlePainter(): Promise<TitlePainter> {
  const init = CanvasKitInit as unknown as (options: { locateFile: () => string }) => ReturnType<typeof CanvasKitInit>;
  const ck = await init({ locateFile: () => canvasKitUrl });
  const read = async (file: string): Promise<ArrayBuffer | null> => {
    const own = ownFontAsset(file);
    const response = await fetch(own ? `/api/assets/${own}` : `/api/fonts/${file}`);
    return response.ok ? response.arrayBuffer() : null;
  };
  const painter = new TitlePainter(ck, new Map(), read);
  await painter.need([]);
  return painter;
}
