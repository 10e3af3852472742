import type { PromoDocument } from '../document/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import { heardIds } from './clip-sounds.ts';
import { promoLength } from './cut.ts';
import { heardOfMusic } from './music-time.ts';
import type { CutOf } from './nested.ts';

/** Whether anything of a cut is heard where it is shown. */
export const heardOfCut = (cut: PromoDocument): boolean =>
  cut.music !== null || cut.sounds.some(({ on }) => on) || heardIds(cut).length > 0;

/** Whether what a clip or an overlay of a promo shows has a sound: footage, or another cut. */
export function hasSound({ footage }: PromoDocument, id: string, cutOf: CutOf): boolean {
  const film = footage.find((f) => f.id === id);
  const cut = film ? undefined : cutOf(id);
  return film?.sound !== undefined || (cut !== undefined && heardOfCut(cut));
}

/**
 * The sound files that a promo is heard with besides its own music: of its sounds, of footage, and the music and sounds of other cuts. By
 * their hashes, and how many seconds of each are heard at most.
 * @param cuts other cuts that it shows, by their ids.
 */
export function soundFilesOf(
  promo: PromoDocument,
  cuts: Readonly<Record<string, PromoDocument>>,
  rate: FrameRate,
): Map<string, number> {
  const files = new Map<string, number>();
  const need = (asset: string, seconds: number): void =>
    void files.set(asset, Math.max(files.get(asset) ?? 0, seconds));
  const seen = new Set([promo]);
  // Grows while it is gone through.
  for (const cut of seen) {
    for (const { source } of cut.sounds) if (source.kind === 'file') need(source.asset, source.trim + source.seconds);
    for (const id of heardIds(cut)) {
      const { sound, frames, rate: own } = cut.footage.find((f) => f.id === id) ?? {};
      if (sound && frames && own) need(sound, frames / own);
      else if (cuts[id]) seen.add(cuts[id]);
    }
    if (cut !== promo && cut.music)
      need(cut.music.asset, heardOfMusic(cut.music, framesToSeconds(promoLength(cut), rate)));
  }
  return files;
}
