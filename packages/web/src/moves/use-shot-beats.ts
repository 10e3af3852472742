import { computed, type ComputedRef } from 'vue';
import { musicAtShot, promoBeats, promoSections } from '@tender-orbit/core/promo';
import { gridFrom, secondsToFrames, type BeatGrid } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import type { RulerPart } from '../timeline/ruler-part.ts';

/** Seconds into the music, as it is edited, at the first frame of the shot in hand; null without music. */
export function useShotMusic(): ComputedRef<number | null> {
  const campaign = useCampaign();
  return computed(() => {
    const { promo, shot, shotTakes, rate } = campaign;
    if (!promo?.music || !shot) return null;
    return musicAtShot(promo, shot.musicFrom, new Set(shotTakes.map((t) => t.id)), rate);
  });
}

/** The music's beats on the frames of the shot in hand. */
export function useShotBeats(): ComputedRef<BeatGrid | null> {
  const campaign = useCampaign();
  const start = useShotMusic();
  return computed(() => {
    const { promo } = campaign;
    const grid = promo && promoBeats(promo);
    // The promo's grid begins where the promo's music is trimmed to.
    return grid && start.value !== null ? gridFrom(grid, start.value - promo.music!.trim) : null;
  });
}

/** The parts of the music over the frames of the shot in hand. */
export function useShotParts(): ComputedRef<RulerPart[]> {
  const campaign = useCampaign();
  const start = useShotMusic();
  return computed(() => {
    const { promo, shot, rate } = campaign;
    if (!promo?.music || !shot || start.value === null) return [];
    const { trim } = promo.music;
    return promoSections(promo).flatMap(({ from, to, kind }) => {
      const frames = [from, to].map((s) => secondsToFrames(s + trim - start.value!, rate));
      const [a, b] = frames.map((f) => Math.min(shot.length, Math.max(0, f)));
      return b > a ? [{ from: a, to: b, kind }] : [];
    });
  });
}
