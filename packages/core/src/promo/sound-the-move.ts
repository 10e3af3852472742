import { SOUND_KIT } from '../audio/index.ts';
import { newKitSound, type PromoDocument, type PromoSound } from '../document/index.ts';
import { clamp, log10 } from '../maths/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import { placedClips } from './cut.ts';
import { clipValues, pictureSize } from './framing.ts';
import { footageLength } from './overlays.ts';
import { takeTime } from './pace.ts';
import type { FocusOf } from './reframe.ts';

/** What is known of a take: see Reframing. */
export interface MoveSource {
  /** At a frame of the take, or a part of one. */
  focusOf: FocusOf;
  takeAspect: number;
  takeLength: (take: string) => number;
}

/** Where a product is on the screen: from its middle in heights of the frame, and how high it is. */
interface Place {
  x: number;
  y: number;
  high: number;
}

/** Heights of the frame a second below which nothing is heard to move. */
const STILL = 0.04;
/** Heights of the frame a second that are neither loud nor quiet. */
const USUAL = 1.5;
/** Share of the highest speed at which a move is taken to begin and to end. */
const SLOW = 0.25;
/** Seconds of a whoosh on a move, and decibels under the music. */
const SHORTEST = 0.35;
const LONGEST = 3;
const UNDER = -9;
/** How far to a side a product at the edge of the frame is heard. */
const WIDEST = 0.85;

/** Where the product that a clip means is on the screen in each of its frames; null where it has none. */
function placesOf(promo: PromoDocument, id: string, source: MoveSource): Place[] | null {
  const clip = promo.clips.find((c) => c.id === id);
  const length = clip ? source.takeLength(clip.take) : 0;
  if (!clip || length <= 0 || footageLength(promo, clip.take) > 0) return null;
  const values = clipValues(clip, promo);
  const size = pictureSize(clip, promo.width / promo.height, source.takeAspect).high;
  const focusAt = (at: number, meant?: string) => {
    const place = values(at);
    const scale = place.scale * size;
    const time = clamp(takeTime(clip, at), 0, length - 1);
    const focus = source.focusOf(clip.take, time, { x: -place.x / scale, y: -place.y / scale }, meant);
    return (
      focus && { id: focus.id, x: place.x + focus.x * scale, y: place.y + focus.y * scale, high: focus.high * scale }
    );
  };
  // The one that its middle shows is followed through all of it.
  const middle = focusAt(Math.floor(clip.length / 2));
  if (!middle) return null;
  const places = Array.from({ length: clip.length }, (_, at) => focusAt(at, middle.id));
  return places.every((place) => place !== null) ? places : null;
}

/**
 * A whoosh for the move of a clip's product, or of its camera past it: its accent falls where the move is fastest, it lasts as long as the
 * move does, is the higher and louder the faster it goes and the weightier the larger the product is, and goes from side to side with it.
 * @returns null when nothing is known of its product, or nothing moves.
 */
export function soundOfMove(
  promo: PromoDocument,
  clip: string,
  rate: FrameRate,
  id: string,
  source: MoveSource,
): PromoSound | null {
  const places = placesOf(promo, clip, source);
  if (!places || places.length < 3) return null;
  // What comes nearer goes past too: half of its growth counts.
  const speeds = places.slice(1).map((place, n) => {
    const before = places[n];
    const [dx, dy, dh] = [place.x - before.x, place.y - before.y, (place.high - before.high) / 2];
    return (Math.sqrt(dx * dx + dy * dy + dh * dh) * rate.num) / rate.den;
  });
  const most = Math.max(...speeds);
  if (most < STILL) return null;
  const peak = speeds.indexOf(most);
  const slow = most * SLOW;
  let [first, last] = [peak, peak];
  while (first > 0 && speeds[first - 1] >= slow) first--;
  while (last + 1 < speeds.length && speeds[last + 1] >= slow) last++;
  const { from } = placedClips(promo).find((placed) => placed.clip.id === clip)!;
  const half = promo.width / promo.height / 2;
  const panAt = (n: number): number => Math.round(100 * WIDEST * clamp(places[n].x / half, -1, 1)) / 100;
  const loud = clamp(20 * log10(most / USUAL), -12, 3);
  const sound = newKitSound(id, 'whoosh', from + peak, {
    ...{ gain: Math.round(2 * (UNDER + loud)) / 2, pan: panAt(first), panTo: panAt(last + 1) },
  });
  if (sound.source.kind === 'made') {
    const { sound: made } = sound.source;
    // Its accent lies past its middle: it lasts as long as lets both ends of the move be within it.
    const { accent } = SOUND_KIT.whoosh;
    const [lead, rest] = [peak - first + 1, last - peak + 1].map((frames) => framesToSeconds(frames, rate));
    made.seconds = clamp(Math.max(lead / accent, rest / (1 - accent)), SHORTEST, LONGEST);
    made.pitch = Math.round(clamp(6 * (log10(most / USUAL) / log10(2)) * 0.5, -8, 8));
    made.weight = Math.round(100 * clamp(places[peak].high, 0.1, 1)) / 100;
  }
  return sound;
}
