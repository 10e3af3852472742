import { shortened } from '@tender-orbit/core/text';
import { ref, type Ref } from 'vue';
import type { LabelSlot } from '@tender-orbit/core/document';
import type { PatternRecipe, PictureSource } from '@tender-orbit/core/finish';
import { useCampaign, useDesk, useNotices } from '../stores/index.ts';
import { storeArt, type ArtPage } from './art-files.ts';

const PICTURE = /\.(png|jpe?g|webp|avif|tiff?|svg|pdf|mp4|webm|mov)$/i;
const busy = ref('');

export function isArt(file: File): boolean {
  return PICTURE.test(file.name);
}

/** A stored picture as it is. */
export function storedPicture(asset: string): PictureSource {
  return { asset, pattern: null, look: null, emboss: false };
}

/**
 * The slot that each page is for: the one that its name speaks of (`box-front.png`), else, in order, one that is still
 * empty.
 */
export function slotsFor(
  pages: readonly string[],
  slots: readonly LabelSlot[],
  filled: ReadonlySet<string>,
): Array<string | null> {
  const words = (text: string): string[] => text.toLowerCase().match(/[a-z]+/g) ?? [];
  const free = slots.filter((s) => !filled.has(s.id));
  const chosen = pages.map((page) => {
    const said = words(page);
    // "left dust flap" speaks of more than "left" does: the longest name that is wholly said wins.
    const fits = slots.filter((s) => words(s.name).every((w) => said.includes(w)));
    return fits.sort((a, b) => words(b.name).length - words(a.name).length)[0]?.id ?? null;
  });
  const taken = new Set(chosen);
  return chosen.map((id) => {
    if (id) return id;
    const next = free.find((s) => !taken.has(s.id));
    if (next) taken.add(next.id);
    return next?.id ?? null;
  });
}

/** Brings art into the product in hand. */
export function useArt(): {
  busy: Ref<string>;
  bring: (files: readonly File[], options?: { slot?: string; dpi?: number }) => Promise<void>;
  addPattern: (recipe: PatternRecipe, name: string) => string;
} {
  const desk = useDesk();
  const campaign = useCampaign();
  const notices = useNotices();

  async function bring(files: readonly File[], { slot = '', dpi = 300 } = {}): Promise<void> {
    const art = files.filter(isArt);
    if (art.length === 0 || !desk.product || busy.value) return;
    busy.value = art[0].name;
    await notices.guard(async () => {
      const pages: ArtPage[] = [];
      for (const file of art) {
        busy.value = file.name;
        const rate = campaign.rate.num / campaign.rate.den;
        pages.push(...(await storeArt(campaign.id, file, { dpi, rate, saying: (what) => (busy.value = what) })));
      }
      const filled = new Set(desk.variant!.fills.map((f) => f.slot));
      const places =
        slot && pages.length === 1
          ? [slot]
          : slotsFor(
              pages.map((p) => p.name),
              desk.product!.slots,
              filled,
            );
      for (const [i, { name, asset, width, height, film }] of pages.entries()) {
        const sheet = desk.addSheet({ name, picture: storedPicture(asset), width, height, ...(film && { film }) });
        if (places[i]) desk.fill(places[i], { sheet }, `Put art on ${nameOf(places[i])}`);
      }
      const placed = places.filter(Boolean).map((id) => nameOf(id!));
      notices.done(
        placed.length
          ? `${pages.length} ${pages.length === 1 ? 'sheet is' : 'sheets are'} in, on ${placed.join(', ')}.`
          : `${pages.length} ${pages.length === 1 ? 'sheet is' : 'sheets are'} in: choose a slot for ${pages.length === 1 ? 'it' : 'them'}.`,
      );
    });
    busy.value = '';
  }
  function nameOf(slot: string): string {
    return desk.product?.slots.find((s) => s.id === slot)?.name ?? 'a slot';
  }
  function addPattern(recipe: PatternRecipe, name: string): string {
    const picture = { asset: '', pattern: recipe, look: null, emboss: false };
    return desk.addSheet({ name: shortened(name, 120), picture, width: recipe.size, height: recipe.size });
  }
  return { busy, bring, addPattern };
}
