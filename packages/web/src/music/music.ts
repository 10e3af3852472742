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

/** Files of peaks by hash. */
const peakFiles = shallowReactive(new Map<string, Uint8Array>());

/** The peaks of music, or undefined until they are here: they come long before the music is decoded. */
export function peaksOf(hash: string | undefined): Uint8Array | undefined {
  if (!hash) return undefined;
  if (!peakFiles.has(hash) && !asked.has(hash)) {
    asked.add(hash);
    fetchPeaks(hash).catch(() => asked.delete(hash));
  }
  return peakFiles.get(hash);
}

async function fetchPeaks(hash: string): Promise<void> {
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error(`the server answered ${response.status}`);
  peakFiles.set(hash, new Uint8Array(await response.arrayBuffer()));
}
