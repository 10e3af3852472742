import { editedMusic } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { onBeforeUnmount, watch, type ComputedRef } from 'vue';
import { useCampaign, usePlayhead } from '../stores/index.ts';
import { musicOf } from './music.ts';

/**
 * Sounds the music under the shot while it plays; the sound card's clock leads the pictures then.
 * @param start seconds into the music at the first frame; null for none.
 */
export function useShotSound(start: ComputedRef<number | null>): void {
  const campaign = useCampaign();
  const playhead = usePlayhead();
  let context: AudioContext | null = null;
  let source: AudioBufferSourceNode | null = null;

  function silence(): void {
    source?.stop();
    source = null;
    playhead.follow(null);
  }
  function sound(frame: number): void {
    silence();
    const use = campaign.promo?.music;
    const file = musicOf(use?.asset);
    if (!use || !file || start.value === null) return;
    const music = editedMusic(file, use);
    context ??= new AudioContext({ sampleRate: music.sampleRate });
    const now = context;
    const buffer = now.createBuffer(2, music.left.length, music.sampleRate);
    buffer.copyToChannel(new Float32Array(music.left), 0);
    buffer.copyToChannel(new Float32Array(music.right), 1);
    source = now.createBufferSource();
    source.buffer = buffer;
    source.connect(now.destination);
    const at = start.value + framesToSeconds(frame, campaign.rate);
    // Before its beginning the music waits.
    source.start(now.currentTime + Math.max(0, -at), Math.max(0, at));
    void now.resume();
    playhead.follow(() => now.currentTime);
  }
  watch(
    () => playhead.playing,
    (playing) => (playing ? sound(playhead.frame) : silence()),
  );
  // The shot begins anew: so does its music.
  watch(
    () => playhead.frame,
    (now, before) => {
      if (playhead.playing && source && now < before) sound(now);
    },
  );
  onBeforeUnmount(() => {
    silence();
    void context?.close();
  });
}
