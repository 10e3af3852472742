import { addVoice, mallet, noteFrequency, silence, writeWav } from '@tender-orbit/core/audio';

/** A short tune as a WAV file. */
export function tuneWav(seconds: number): Uint8Array {
  const sound = silence(seconds * 48000);
  for (let i = 0; i < seconds * 4; i++) addVoice(sound, i / 4, 0.3, 0.6, 0, mallet(noteFrequency(62 + (i % 4) * 3)));
  return writeWav(sound);
}
