import { dampen, decibelsToGain, makeKitSound, SOUND_KIT, silence, type KitSound, type Sound } from '../audio/index.ts';
import { SOUND_PROPERTIES, type PromoDocument, type PromoSound } from '../document/index.ts';
import { cos, exp, pow, sin } from '../maths/index.ts';
import { framesToSeconds, type FrameRate } from '../time/index.ts';
import { sampledCurve } from './sampled-curve.ts';

/** Made sounds that are kept: dragging one sound of a promo does not make the others again. */
const KEPT = 48;
const made = new Map<string, Sound>();

/** A sound of the kit; the same object while it is kept. */
export function kitSoundOf(kit: KitSound, sampleRate: number): Sound {
  const key = JSON.stringify([kit.kind, kit.seconds, kit.pitch, kit.weight, kit.seed, sampleRate]);
  const known = made.get(key);
  const sound = known ?? makeKitSound(kit, sampleRate);
  // The map is in the order of use.
  made.delete(key);
  made.set(key, sound);
  if (made.size > KEPT) made.delete(made.keys().next().value!);
  return sound;
}

/** How long a sound is, in seconds. */
export const soundSeconds = ({ source }: PromoSound): number =>
  source.kind === 'made' ? source.sound.seconds : source.seconds;

/** Seconds of a sound before its accent. */
const leadOf = (sound: PromoSound): number =>
  sound.source.kind === 'made' ? SOUND_KIT[sound.source.sound.kind].accent * soundSeconds(sound) : 0;

/** Where a sound begins and ends on the promo's time line, in seconds; it may begin before the promo does. */
export function soundSpan(sound: PromoSound, rate: FrameRate): { from: number; to: number } {
  const from = framesToSeconds(sound.at, rate) - leadOf(sound);
  return { from, to: from + soundSeconds(sound) };
}

/** Seconds in which the level that ducks the music follows a sound up and down. */
const ATTACK = 0.008;
const RELEASE = 0.28;
/** Level at which the music is down by all that it is to be, and below which it stays as it is. */
const LOUD = 0.12;
const QUIET = 0.01;

/** Gain of the music while sounds are heard that duck it: the deepest of them counts. */
class Ducking {
  private readonly gain: Float32Array;
  used = false;

  constructor(samples: number) {
    this.gain = new Float32Array(samples).fill(1);
  }

  /** @param heard the sound as it is heard, from sample `from` on. */
  add(heard: Sound, from: number, duck: number): void {
    this.used = true;
    const [up, down] = [ATTACK, RELEASE].map((seconds) => 1 - exp(-1 / (seconds * heard.sampleRate)));
    const least = decibelsToGain(-duck);
    let level = 0;
    // It goes on below the sound's end until the music is back.
    for (let i = 0; from + i < this.gain.length; i++) {
      const now = i < heard.left.length ? Math.max(Math.abs(heard.left[i]), Math.abs(heard.right[i])) : 0;
      level += (now - level) * (now > level ? up : down);
      if (i >= heard.left.length && level < QUIET) break;
      if (from + i < 0) continue;
      const share = Math.min(1, Math.max(0, (level - QUIET) / (LOUD - QUIET)));
      const gain = 1 + (least - 1) * share * share * (3 - 2 * share);
      if (gain < this.gain[from + i]) this.gain[from + i] = gain;
    }
  }

  apply({ left, right }: Sound): void {
    for (let i = 0; i < left.length; i++) {
      left[i] *= this.gain[i];
      right[i] *= this.gain[i];
    }
  }
}

/** A sound with its gain, its fades (equal power) and its way between left and right (equal power, 0 dB in the middle). */
function heardOf(
  sound: PromoSound,
  promo: Pick<PromoDocument, 'tracks' | 'eases'>,
  frames: FrameRate,
  rate: number,
  files: ReadonlyMap<string, Sound>,
): Sound | null {
  const { source, gain, pan, panTo, fadeIn, fadeOut } = sound;
  const whole = source.kind === 'made' ? kitSoundOf(source.sound, rate) : files.get(source.asset);
  if (!whole) return null;
  const offset = source.kind === 'made' ? 0 : Math.round(source.trim * rate);
  const samples = Math.min(whole.left.length - offset, Math.round(soundSeconds(sound) * rate));
  if (samples <= 0) return null;
  const out = silence(samples, rate);
  for (const side of ['left', 'right'] as const) {
    out[side].set(whole[side].subarray(offset, offset + samples));
    if (sound.reverse) out[side].reverse();
  }
  const { sweep } = sound;
  if (sweep) dampen(out, (i) => sweep[0] * pow(sweep[1] / sweep[0], i / samples));
  const time = { rate: frames, sampleRate: rate, samples, lead: leadOf(sound) };
  const gains = sampledCurve(promo, sound.id, 'gain', SOUND_PROPERTIES.gain, time);
  const pans = sampledCurve(promo, sound.id, 'pan', SOUND_PROPERTIES.pan, time);
  const level = decibelsToGain(gain);
  const [rise, fall] = [fadeIn, fadeOut].map((seconds) => Math.round(seconds * rate));
  for (let i = 0; i < samples; i++) {
    let now = gains ? decibelsToGain(gains(i)) : level;
    if (i < rise) now *= sin(((i / rise) * Math.PI) / 2);
    if (samples - 1 - i < fall) now *= sin((((samples - 1 - i) / fall) * Math.PI) / 2);
    const side = pans ? pans(i) : pan + (panTo - pan) * (i / samples);
    const angle = ((side + 1) * Math.PI) / 4;
    out.left[i] *= now * cos(angle) * Math.SQRT2;
    out.right[i] *= now * sin(angle) * Math.SQRT2;
  }
  return out;
}

/**
 * A promo's sounds, and its music brought down under those that duck it. Changes the music.
 * @returns them as long as the music, and whether any is heard.
 */
export function layDownSounds(
  music: Sound,
  promo: Pick<PromoDocument, 'sounds' | 'tracks' | 'eases'>,
  rate: FrameRate,
  files: ReadonlyMap<string, Sound>,
): { sounds: Sound; heard: boolean } {
  const { sampleRate } = music;
  const sounds = silence(music.left.length, sampleRate);
  const ducking = new Ducking(music.left.length);
  const heard = promo.sounds
    .filter((sound) => sound.on)
    .flatMap((sound) => {
      const own = heardOf(sound, promo, rate, sampleRate, files);
      const from = Math.round(soundSpan(sound, rate).from * sampleRate);
      if (own && sound.duck > 0) ducking.add(own, from, sound.duck);
      return own ? [{ own, from }] : [];
    });
  if (ducking.used) ducking.apply(music);
  for (const { own, from } of heard) {
    const end = Math.min(sounds.left.length, from + own.left.length);
    for (let i = Math.max(0, from); i < end; i++) {
      sounds.left[i] += own.left[i - from];
      sounds.right[i] += own.right[i - from];
    }
  }
  return { sounds, heard: heard.length > 0 };
}
