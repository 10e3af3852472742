import { computed, ref, type ComputedRef, type Ref } from 'vue';
import {
  addClip,
  addTitle,
  bringCaptions,
  changeClip,
  changeMusic,
  changeTitle,
  deleteClip,
  deleteTitle,
  newTitle,
  removeMusic,
  type Clip,
  type Command,
  type MusicUse,
  type PromoDocument,
  type Title,
} from '@tender-orbit/core/document';
import { promoBeats, promoLength, readCaptions, titlesOf } from '@tender-orbit/core/promo';
import { textOf } from '@tender-orbit/core/text';
import type { BeatGrid } from '@tender-orbit/core/time';
import type { TakeSummary } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';

export type PromoChoice = { kind: 'clip' | 'title'; id: string } | { kind: 'music' } | null;

const chosen = ref<PromoChoice>(null);
const frame = ref(0);

export interface PromoWork {
  promo: ComputedRef<PromoDocument | undefined>;
  /** At least one frame, so that an empty promo has a time line. */
  length: ComputedRef<number>;
  grid: ComputedRef<BeatGrid | null>;
  chosen: Ref<PromoChoice>;
  frame: Ref<number>;
  run: (command: Command<PromoDocument>, gesture?: string) => void;
  editClip: (id: string, label: string, values: Partial<Clip>, gesture?: string) => void;
  editTitle: (id: string, label: string, values: Partial<Title>, gesture?: string) => void;
  editMusic: (label: string, values: Partial<MusicUse>, gesture?: string) => void;
  addTake: (take: TakeSummary) => void;
  addTitle: () => void;
  /** Captions of a WebVTT or SubRip file as titles. */
  addCaptions: (file: File) => Promise<void>;
  removeChosen: () => void;
}

/** The open promo and its edits; what is chosen in it is the same wherever it is asked for. */
export function usePromo(): PromoWork {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const promo = computed(() => campaign.promo);
  const run: PromoWork['run'] = (command, gesture = '') => documents.run('promo', campaign.promoId, command, gesture);

  return {
    promo,
    length: computed(() => Math.max(1, promo.value ? promoLength(promo.value) : 1)),
    grid: computed(() => (promo.value ? promoBeats(promo.value) : null)),
    chosen,
    frame,
    run,
    editClip: (id, label, values, gesture) => run(changeClip(id, label, values), gesture),
    editTitle: (id, label, values, gesture) => run(changeTitle(id, label, values), gesture),
    editMusic: (label, values, gesture) => run(changeMusic(label, values), gesture),
    addTake: (take) => {
      const clip: Clip = { id: freshId('clip'), take: take.id, start: 0, length: take.length };
      run(addClip(clip, take.name));
      chosen.value = { kind: 'clip', id: clip.id };
    },
    addTitle: () => {
      if (!promo.value) return;
      const left = Math.max(1, promoLength(promo.value) - frame.value);
      const title = newTitle(freshId('title'), {
        start: frame.value,
        length: promoLength(promo.value) > 0 ? Math.min(48, left) : 48,
        size: Math.round(promo.value.height / 9),
      });
      run(addTitle(title));
      chosen.value = { kind: 'title', id: title.id };
    },
    addCaptions: async (file) => {
      await notices.guard(async () => {
        const captions = readCaptions(textOf(new Uint8Array(await file.arrayBuffer())), file.name);
        if (!promo.value) return;
        const titles = titlesOf(captions, promo.value, campaign.rate, () => freshId('title'));
        run(bringCaptions(titles));
        chosen.value = { kind: 'title', id: titles[0].id };
      });
    },
    removeChosen: () => {
      const choice = chosen.value;
      if (!choice) return;
      chosen.value = null;
      if (choice.kind === 'music') run(removeMusic());
      else run(choice.kind === 'clip' ? deleteClip(choice.id) : deleteTitle(choice.id));
    },
  };
}
