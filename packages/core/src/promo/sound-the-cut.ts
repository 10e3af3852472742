import { newKitSound, type PromoDocument, type PromoSound, type Transition } from '../document/index.ts';
import type { KitKind } from '../audio/index.ts';
import { framesToSeconds, secondsToFrames, type FrameRate } from '../time/index.ts';
import { placedClips, promoLength } from './cut.ts';
import { promoSections } from './music-time.ts';

/** What is heard as a transition is seen; dissolves and dips are quiet. */
const OF_TRANSITIONS: Partial<Record<Transition['kind'], KitKind>> = {
  ...{ wipe: 'whoosh', push: 'whoosh', slide: 'whoosh', zoom: 'whoosh', whip: 'whoosh', fly: 'whoosh' },
  ...{ iris: 'whoosh', leak: 'shimmer', smoke: 'smoke-puff' },
  flash: 'hit',
};
/** Frames within which a sound is taken to be there already. */
const NEAR = 2;
/** Decibels of sounds that are laid over music: they are to be felt more than heard. */
const UNDER = -9;

/** Which way something goes over the picture, for its sound: -1 to the left, 1 to the right, by degrees. */
const sideOf = (angle: number): number => {
  const turn = ((angle % 360) + 360) % 360;
  if (turn < 60 || turn > 300) return 1;
  return turn > 120 && turn < 240 ? -1 : 0;
};

/**
 * Sounds that a cut asks for: a whoosh over each transition that moves, on its way and as long as it; a hit with each flash and
 * where the music drops, led up to by a riser; a glass tap as a title lands. What has a sound at its frame already gets none.
 * @param id gives ids that are not taken.
 */
export function soundsForCut(promo: PromoDocument, rate: FrameRate, id: () => string): PromoSound[] {
  const made: PromoSound[] = [];
  const taken = (at: number): boolean => [...promo.sounds, ...made].some((sound) => Math.abs(sound.at - at) <= NEAR);
  const add = (kind: KitKind, at: number, values: Partial<PromoSound> = {}, seconds = 0): void => {
    const sound = newKitSound(id(), kind, at, { gain: UNDER, ...values });
    if (sound.source.kind === 'made') {
      sound.source.sound.seed = 1 + made.length;
      if (seconds > 0) sound.source.sound.seconds = seconds;
    }
    made.push(sound);
  };
  const length = promoLength(promo);
  for (const drop of dropsOf(promo, rate)) {
    if (drop <= 0 || drop >= length || taken(drop)) continue;
    add('hit', drop, { duck: 4 });
    const lead = Math.min(2.5, framesToSeconds(drop, rate));
    // It ends on the beat that the hit falls on.
    if (lead > 0.8) add('riser', drop, { gain: UNDER - 3 }, lead);
  }
  for (const { clip, from } of placedClips(promo)) {
    const kind = clip.into && from > 0 ? OF_TRANSITIONS[clip.into.kind] : undefined;
    if (!kind || taken(from)) continue;
    const side = sideOf(clip.into!.angle);
    const seconds = Math.min(2, Math.max(0.5, 2 * framesToSeconds(clip.into!.frames, rate)));
    if (kind === 'whoosh') add(kind, from, { pan: -0.6 * side, panTo: 0.6 * side }, seconds);
    else add(kind, from);
  }
  for (const title of promo.titles) {
    const lands = title.start + (title.parts ? 0 : title.arrive.frames);
    if (title.arrive.kind !== 'none' && lands < length && !taken(lands)) add('glass-tap', lands, { gain: UNDER - 3 });
  }
  return made;
}

/** Frames at which the music drops. */
function dropsOf(promo: PromoDocument, rate: FrameRate): number[] {
  return promoSections(promo)
    .filter(({ kind }) => kind === 'drop')
    .map(({ from }) => Math.round(secondsToFrames(from, rate)));
}
