import { bringMusic, changeMusic, type MusicUse } from '@tender-orbit/core/document';
import type { CountedBeats, MusicAnalysis } from '@tender-orbit/core/audio';
import { computed, ref, type ComputedRef, type Ref } from 'vue';
import { api, uploadFile } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { listenTo } from './analysis.ts';

const uploading = ref<{ name: string; share: number } | null>(null);
const listening = ref(false);

/** The campaign's one piece of music: brought in anywhere, listened to, its beats put right. */
export function useMusic(): {
  music: ComputedRef<MusicUse | null>;
  uploading: Ref<{ name: string; share: number } | null>;
  listening: Ref<boolean>;
  /** @param known what is known of its beats; left out: they are listened for. */
  bring: (file: File | undefined, known?: Partial<MusicUse>) => Promise<void>;
  /** Finds beats and parts anew. */
  listen: () => Promise<void>;
  count: (label: string, counted: CountedBeats) => void;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const music = computed(() => campaign.promo?.music ?? null);
  const change = (label: string, values: Partial<MusicUse>): void =>
    documents.run('promo', campaign.promoId, changeMusic(label, values));

  async function bring(file: File | undefined, known?: Partial<MusicUse>): Promise<void> {
    if (!file || uploading.value) return;
    uploading.value = { name: file.name, share: 0 };
    const came = await notices.guard(async () => {
      const { hash } = await uploadFile(file, (share) => (uploading.value = { name: file.name, share: share * 0.9 }));
      const made = await api<Pick<MusicUse, 'asset' | 'name' | 'peaks'>>('POST', `/campaigns/${campaign.id}/music`, {
        asset: hash,
        fileName: file.name,
      });
      const gesture = `music-${Date.now()}`;
      documents.run('promo', campaign.promoId, bringMusic(made), gesture);
      if (known) documents.run('promo', campaign.promoId, changeMusic('Bring music', known), gesture);
    });
    uploading.value = null;
    if (came && !known) await listen();
  }
  async function listen(): Promise<void> {
    const asset = music.value?.asset;
    if (!asset || listening.value) return;
    listening.value = true;
    await notices.guard(async () => {
      const heard = await listenTo(asset);
      // Other music may have come meanwhile.
      if (music.value?.asset !== asset) return;
      if (heard.beats.length === 0)
        notices.refuse('No beat was heard in this music: tap it, or set two beats by hand.');
      else change('Find beats', valuesOf(heard, heard.sections));
    });
    listening.value = false;
  }
  return {
    ...{ music, uploading, listening, bring, listen },
    count: (label, counted) => change(label, valuesOf(counted, music.value?.sections ?? [])),
  };
}

/** Beats as music keeps them, with the tempo that is shown. */
function valuesOf(
  { beats, beatsPerBar, downbeat }: CountedBeats,
  sections: MusicAnalysis['sections'],
): Partial<MusicUse> {
  const spans = beats.slice(1).map((t, i) => t - beats[i]);
  spans.sort((a, b) => a - b);
  const tempo = spans.length > 0 ? Number(Math.min(400, 60 / spans[spans.length >> 1]).toFixed(2)) : 0;
  return { beats, beatsPerBar, downbeat, tempo, firstBeat: beats[downbeat] ?? 0, sections };
}
