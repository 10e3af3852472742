import { layersOver, type Plates } from '@tender-orbit/core/composite';
import type { DeliverySnapshot, PromoDocument } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import {
  assemble,
  promoTexts,
  shownAt,
  sourceLength,
  takeFramesAt,
  textDrawer,
  type TakeLength,
  type TitlePainter,
} from '@tender-orbit/core/promo';
import { openPlates } from './open-plates.ts';
import { TakePictures, type PictureFiles } from './take-pictures.ts';
import { openTitlePainter } from './title-fonts.ts';

/** What the pictures of a promo are made from. */
export interface PromoFiles extends Omit<PictureFiles, 'footage'> {
  snapshot: DeliverySnapshot;
  /** Files of fonts that were brought, by hash. */
  fonts: Record<string, string>;
}

/** Assembles frames of a promo as they are delivered, and of the cuts that it shows. Holds native memory: call dispose(). */
export class FrameMaker {
  private readonly plates: Plates = openPlates();
  private readonly lengthOf: TakeLength;
  /** What each cut shows; the promo's own under ''. */
  private readonly pictures = new Map<string, TakePictures>();

  private constructor(
    private readonly files: PromoFiles,
    private readonly painter: TitlePainter,
  ) {
    const { cuts = {}, takeLengths } = files.snapshot;
    this.lengthOf = sourceLength(cuts, (take) => takeLengths[take] ?? 0);
  }

  static async open(files: PromoFiles): Promise<FrameMaker> {
    const { promo, cuts = {}, composites = {}, shown = {} } = files.snapshot;
    const painter = await openTitlePainter(files.fonts);
    const all = [composites, shown].flatMap((some) => Object.values(some));
    await painter.need([promo, ...Object.values(cuts)].flatMap((cut) => promoTexts(cut, all)));
    return new FrameMaker(files, painter);
  }

  frame(frame: number): Promise<Picture> {
    return this.frameOf(this.files.snapshot.promo, '', frame);
  }

  dispose(): void {
    this.painter.dispose();
  }

  private async frameOf(cut: PromoDocument, id: string, frame: number): Promise<Picture> {
    const { shown = {}, frameRate } = this.files.snapshot;
    const pictures = this.picturesOf(cut, id);
    await pictures.load(takeFramesAt(cut, frame, this.lengthOf));
    return assemble(
      this.plates,
      cut,
      frame,
      shownAt(cut, frame, this.lengthOf),
      pictures.loaded,
      this.painter,
      await layersOver(cut, shown, frame, frameRate, pictures),
      this.lengthOf,
    );
  }

  /** What a cut shows. Each has its own: what one needs for a frame does not push out what another still needs. */
  private picturesOf(cut: PromoDocument, id: string): TakePictures {
    const known = this.pictures.get(id);
    if (known) return known;
    const { snapshot, fonts: _fonts, ...files } = this.files;
    const { cuts = {}, composites = {}, frameRate } = snapshot;
    const footage = Object.fromEntries(cut.footage.map((f) => [f.id, f.list]));
    const made = new TakePictures({ ...files, footage }, composites, frameRate, textDrawer(this.painter), {
      plates: this.plates,
      cut: (other, frame) => (cuts[other] ? this.frameOf(cuts[other], other, frame) : null),
    });
    this.pictures.set(id, made);
    return made;
  }
}
