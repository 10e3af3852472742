import type { Sound } from './sound.ts';

/** RIFF WAVE, 16-bit PCM stereo with triangular dither (repeatable), little-endian. */
export function writeWav(sound: Sound): Uint8Array {
  const frames = sound.left.length;
  const bytes = new Uint8Array(44 + frames * 4);
  const view = new DataView(bytes.buffer);
  const word = (at: number, s: string): void => [...s].forEach((c, i) => (bytes[at + i] = c.charCodeAt(0)));
  word(0, 'RIFF');
  view.setUint32(4, 36 + frames * 4, true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 2, true);
  view.setUint32(24, sound.sampleRate, true);
  view.setUint32(28, sound.sampleRate * 4, true);
  view.setUint16(32, 4, true);
  view.setUint16(34, 16, true);
  word(36, 'data');
  view.setUint32(40, frames * 4, true);
  let seed = 1;
  const random = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;
  for (let i = 0; i < frames; i++) {
    for (const [channel, data] of [sound.left, sound.right].entries()) {
      const v = Math.round(data[i] * 32767 + random() - random());
      view.setInt16(44 + i * 4 + channel * 2, Math.max(-32768, Math.min(32767, v)), true);
    }
  }
  return bytes;
}
