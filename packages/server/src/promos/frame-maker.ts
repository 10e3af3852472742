import { layersOver } from '@tender-orbit/core/composite';
import type { DeliverySnapshot } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import { assemble, promoTexts, shownAt, takeFramesAt, textDrawer, type TitlePainter } from '@tender-orbit/core/promo';
import { TakePictures, type PictureFiles } from './take-pictures.ts';
import { openTitlePainter } from './title-fonts.ts';

/** What the pictures of a promo are made from. */
export interface PromoFiles extends Omit<PictureFiles, 'footage'> {
  snapshot: DeliverySnapshot;
  /** Files of fonts that were brought, by hash. */
  fonts: Record<string, string>;
}

/** Assembles frames of a promo as they are delivered. Holds native memory: call dispose(). */
export class FrameMaker {
  private constructor(
    private readonly snapshot: DeliverySnapshot,
    private readonly painter: TitlePainter,
    private readonly pictures: TakePictures,
  ) {}

  static async open({ snapshot, fonts, ...files }: PromoFiles): Promise<FrameMaker> {
    const { promo, composites = {}, shown = {}, frameRate } = snapshot;
    const painter = await openTitlePainter(fonts);
    const all = [composites, shown].flatMap((some) => Object.values(some));
    await painter.need(promoTexts(promo, all));
    const footage = Object.fromEntries(promo.footage.map((f) => [f.id, f.list]));
    const pictures = new TakePictures({ ...files, footage }, composites, frameRate, textDrawer(painter));
    return new FrameMaker(snapshot, painter, pictures);
  }

  async frame(frame: number): Promise<Picture> {
    const { snapshot, pictures } = this;
    const { promo, frameRate, takeLengths } = snapshot;
    const lengthOf = (take: string): number => takeLengths[take] ?? 0;
    await pictures.load(takeFramesAt(promo, frame, lengthOf));
    return assemble(
      pictures.plates,
      promo,
      frame,
      shownAt(promo, frame, lengthOf),
      pictures.loaded,
      this.painter,
      await layersOver(promo, snapshot.shown ?? {}, frame, frameRate, pictures),
      lengthOf,
    );
  }

  dispose(): void {
    this.painter.dispose();
  }
}
