import { computed, ref, type ComputedRef, type Ref } from 'vue';
import type { Clip, MusicUse, PromoDocument, Title } from '@tender-orbit/core/document';
import { newTitle } from '@tender-orbit/core/document';
import { promoBeats, promoLength } from '@tender-orbit/core/promo';
import type { BeatGrid } from '@tender-orbit/core/time';
import type { TakeSummary } from '../api/index.ts';
import { useCampaign, useDocuments } from '../stores/index.ts';
import { freshId } from '../things/edit-set.ts';

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
  edit: (label: string, recipe: (promo: PromoDocument) => void, gesture?: string) => void;
  editClip: (id: string, label: string, values: Partial<Clip>, gesture?: string) => void;
  editTitle: (id: string, label: string, values: Partial<Title>, gesture?: string) => void;
  editMusic: (label: string, values: Partial<MusicUse>, gesture?: string) => void;
  addTake: (take: TakeSummary) => void;
  addTitle: () => void;
  removeChosen: () => void;
}

/** The open promo and its edits; what is chosen in it is the same wherever it is asked for. */
export function usePromo(): PromoWork {
  const campaign = useCampaign();
  const documents = useDocuments();
  const promo = computed(() => campaign.promo);
  const edit: PromoWork['edit'] = (label, recipe, gesture = '') =>
    documents.edit('promo', campaign.promoId, label, (p) => recipe(p as PromoDocument), gesture);

  return {
    promo,
    length: computed(() => Math.max(1, promo.value ? promoLength(promo.value) : 1)),
    grid: computed(() => (promo.value ? promoBeats(promo.value) : null)),
    chosen,
    frame,
    edit,
    editClip: (id, label, values, gesture) =>
      edit(label, (p) => void Object.assign(p.clips.find((c) => c.id === id) ?? {}, values), gesture),
    editTitle: (id, label, values, gesture) =>
      edit(label, (p) => void Object.assign(p.titles.find((t) => t.id === id) ?? {}, values), gesture),
    editMusic: (label, values, gesture) =>
      edit(label, (p) => void (p.music && Object.assign(p.music, values)), gesture),
    addTake: (take) => {
      const clip: Clip = { id: freshId('clip'), take: take.id, start: 0, length: take.length };
      edit(`Add ${take.name}`, (p) => void p.clips.push(clip));
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
      edit('Add title', (p) => void p.titles.push(title));
      chosen.value = { kind: 'title', id: title.id };
    },
    removeChosen: () => {
      const choice = chosen.value;
      if (!choice) return;
      chosen.value = null;
      if (choice.kind === 'music') edit('Remove music', (p) => void (p.music = null));
      else if (choice.kind === 'clip')
        edit('Delete clip', (p) => void (p.clips = p.clips.filter((c) => c.id !== choice.id)));
      else edit('Delete title', (p) => void (p.titles = p.titles.filter((t) => t.id !== choice.id)));
    },
  };
}
