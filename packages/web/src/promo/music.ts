import { shallowReactive } from 'vue';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';

/** Decoded music by file hash; the server keeps it as 48 kHz stereo FLAC, so decoding changes no sample. */
const sounds = shallowReactive(new Map<string, Sound>());
const asked = new Set<string>();

/** The music's samples, or undefined until they are here. */
export function musicOf(asset: string | undefined): Sound | undefined {
  if (!asset) return undefined;
  if (!sounds.has(asset) && !asked.has(asset)) {
    asked.add(asset);
    load(asset).catch(() => asked.delete(asset));
  }
  return sounds.get(asset);
}

async function load(asset: string): Promise<void> {
  const response = await fetch(`/api/assets/${asset}`);
  if (!response.ok) throw new Error(`the server answered ${response.status}`);
  const buffer = await new OfflineAudioContext(2, 1, SAMPLE_RATE).decodeAudioData(await response.arrayBuffer());
  sounds.set(asset, {
    sampleRate: SAMPLE_RATE,
    left: buffer.getChannelData(0),
    right: buffer.getChannelData(Math.min(1, buffer.numberOfChannels - 1)),
  });
}
