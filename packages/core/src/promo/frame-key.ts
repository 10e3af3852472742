import { compileLayers } from '../composite/index.ts';
import { clipTracks, type PromoDocument } from '../document/index.ts';
import { logoFrame, shownAt, type ShownClip } from './cut.ts';
import { overlayFrames, overlayValues } from './overlays.ts';
import { strokeUnder, titleAt, windowFrame } from './title-now.ts';

/**
 * What a promo's frame is made of, as text: frames of one text have one picture, whatever else of the document is changed. Takes and
 * composites are named, not looked into.
 */
export function frameKey(promo: PromoDocument, frame: number, takeLength: (take: string) => number): string {
  const shown = shownAt(promo, frame, takeLength);
  const clipOf = ({ clip, frames, at }: ShownClip): unknown => {
    const tracks = clipTracks(promo, clip.id);
    return [frames, clip.fill, clip.picture, tracks, tracks.length > 0 ? [at, clip.length] : 0];
  };
  const within = ({ start, length }: { start: number; length: number }): boolean =>
    frame >= start && frame < start + length;
  const titles = promo.titles
    .filter(within)
    .map((title) => [
      ...[titleAt(title, promo, frame), frame - title.start],
      ...[strokeUnder(title, promo, frame), windowFrame(title, promo, frame), title.callout && frame],
    ]);
  const overlays = promo.overlays.filter(within);
  const layers = promo.layers.length > 0 ? compileLayers(promo).at(frame) : [];
  return JSON.stringify([
    ...[promo.width, promo.height, shown && [clipOf(shown.clip), shown.next && clipOf(shown.next)]],
    ...[shown?.transition, shown?.transition && logoFrame(promo, shown.transition), shown?.t, titles],
    overlays.map((overlay) => [frame - overlay.start, overlay, overlayValues(overlay, promo)(frame - overlay.start)]),
    overlayFrames(promo, frame, takeLength),
    // Vapour, specks and films go on by themselves.
    layers.length > 0 ? [frame, layers, promo.eases] : 0,
  ]);
}
