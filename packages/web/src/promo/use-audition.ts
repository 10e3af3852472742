import { onBeforeUnmount, ref, type Ref } from 'vue';
import { SAMPLE_RATE } from '@tender-orbit/core/audio';
import type { SoundSource } from '@tender-orbit/core/document';
import { kitSoundOf } from '@tender-orbit/core/promo';
import { musicOf } from '../music/music.ts';

/** Plays a sound by itself, as it is made. */
export function useAudition(): { playing: Ref<boolean>; toggle: (source: SoundSource) => void } {
  const playing = ref(false);
  let context: AudioContext | null = null;
  let node: AudioBufferSourceNode | null = null;

  function stop(): void {
    node?.stop();
    node?.disconnect();
    node = null;
    playing.value = false;
  }
  function play(source: SoundSource): void {
    const sound = source.kind === 'made' ? kitSoundOf(source.sound, SAMPLE_RATE) : musicOf(source.asset);
    if (!sound) return;
    context ??= new AudioContext({ sampleRate: SAMPLE_RATE });
    const buffer = context.createBuffer(2, sound.left.length, SAMPLE_RATE);
    buffer.copyToChannel(new Float32Array(sound.left), 0);
    buffer.copyToChannel(new Float32Array(sound.right), 1);
    node = context.createBufferSource();
    node.buffer = buffer;
    node.connect(context.destination);
    node.onended = stop;
    if (source.kind === 'file') node.start(0, source.trim, source.seconds);
    else node.start();
    playing.value = true;
  }
  onBeforeUnmount(() => {
    stop();
    void context?.close();
  });
  return { playing, toggle: (source) => (playing.value ? stop() : play(source)) };
}
