import { ref, type Ref } from 'vue';
import {
  addClip,
  addFootage,
  addOverlay,
  newOverlay,
  newOwnSound,
  type Clip,
  type Footage,
} from '@tender-orbit/core/document';
import { promoLength } from '@tender-orbit/core/promo';
import { shortened } from '@tender-orbit/core/text';
import { bringFilm, bringSequence } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { usePromo } from './use-promo.ts';

/** Pixels of the longer side that footage is kept at: stills may be looked at from near. */
const LONGEST = { film: 1920, still: 4096 };
const isPicture = (file: File): boolean => file.type.startsWith('image/') && file.type !== 'image/gif';

/** How far bringing footage in is; null when none is. */
const bringing = ref<{ name: string; share: number } | null>(null);

/** Footage of the promo: brought in as a film, numbered pictures or a still, and put into the cut or over the picture. */
export function useFootage(): {
  bringing: Ref<{ name: string; share: number } | null>;
  bring: (files: readonly File[]) => Promise<void>;
  addToCut: (footage: Footage) => void;
  /** Lays footage or a take over the picture from the playhead on. */
  addOver: (source: Pick<Footage, 'id' | 'name' | 'frames' | 'rate'>) => void;
} {
  const campaign = useCampaign();
  const notices = useNotices();
  const { promo, run, frame, chosen, hasSound } = usePromo();
  const rate = (): number => campaign.rate.num / campaign.rate.den;

  async function read(files: readonly File[], tell: (share: number) => void): Promise<Omit<Footage, 'id' | 'name'>> {
    const pictures = files.filter(isPicture);
    if (pictures.length === 0) {
      const made = await bringFilm(campaign.id, files[0], { longest: LONGEST.film, sound: true }, tell);
      return { ...shapeOf(made), rate: made.rate, ...(made.sound && { sound: made.sound }) };
    }
    const longest = pictures.length === 1 ? LONGEST.still : LONGEST.film;
    return { ...shapeOf(await bringSequence(campaign.id, pictures, longest, tell)), rate: rate() };
  }
  function shapeOf(made: {
    list: string;
    frames: string[];
    width: number;
    height: number;
  }): Omit<Footage, 'id' | 'name' | 'rate'> {
    const { list, frames, width, height } = made;
    return { list, poster: frames[frames.length >> 1], frames: frames.length, width, height };
  }

  async function bring(files: readonly File[]): Promise<void> {
    if (files.length === 0 || bringing.value) return;
    const { name } = files[0];
    bringing.value = { name, share: 0 };
    await notices.guard(async () => {
      const made = await read(files, (share) => (bringing.value = { name, share }));
      run(addFootage({ id: freshId('footage'), name: shortened(name, 120), ...made }));
    });
    bringing.value = null;
  }

  return {
    ...{ bringing, bring },
    addToCut: (footage) => {
      const still = footage.frames === 1;
      // At its own speed, whatever its rate is; a still stays for two seconds.
      const speed = footage.rate / rate();
      const clip: Clip = {
        ...{ id: freshId('clip'), take: footage.id, start: 0 },
        length: still ? Math.round(2 * rate()) : Math.max(1, Math.round(footage.frames / speed)),
        ...(!still &&
          Math.abs(speed - 1) > 1e-6 && { pace: { from: speed, to: speed, reverse: false, between: 'nearest' } }),
        ...(footage.sound && { sound: newOwnSound() }),
      };
      run(addClip(clip, footage.name));
      chosen.value = { kind: 'clip', id: clip.id };
    },
    addOver: (footage) => {
      if (!promo.value) return;
      const left = promoLength(promo.value) - frame.value;
      const whole = footage.frames > 1 ? Math.round((footage.frames * rate()) / footage.rate) : Math.round(2 * rate());
      const overlay = newOverlay(freshId('overlay'), footage, rate(), {
        start: frame.value,
        length: Math.max(1, left > 0 ? Math.min(left, whole) : whole),
        ...(hasSound(footage.id) && { sound: newOwnSound() }),
      });
      run(addOverlay(overlay, footage.name));
      chosen.value = { kind: 'overlay', id: overlay.id };
    },
  };
}
