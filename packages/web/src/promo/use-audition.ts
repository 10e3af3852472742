import { onBeforeUnmount, ref, type Ref } from 'vue';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import type { SoundSource } from '@tender-orbit/core/document';
import { kitSoundOf } from '@tender-orbit/core/promo';
import { musicOf } from '../music/music.ts';

export interface Audition {
  playing: Ref<boolean>;
  /** @param from seconds into it. @param seconds how much of it; left out: to its end. */
  play: (sound: Sound, from?: number, seconds?: number) => void;
  stop: () => void;
  /** Plays what a sound of the promo is made of, or stops. */
  toggle: (source: SoundSource) => void;
}

/** Plays a sound by itself, as it is made. */
export function useAudition(): Audition {
  const playing = ref(false);
  let context: AudioContext | null = null;
  let node: AudioBufferSourceNode | null = null;

  function stop(): void {
    node?.stop();
    node?.disconnect();
    node = null;
    playing.value = false;
  }
  function play(sound: Sound, from = 0, seconds?: number): void {
    stop();
    context ??= new AudioContext({ sampleRate: SAMPLE_RATE });
    const buffer = context.createBuffer(2, sound.left.length, SAMPLE_RATE);
    buffer.copyToChannel(new Float32Array(sound.left), 0);
    buffer.copyToChannel(new Float32Array(sound.right), 1);
    const own = (node = context.createBufferSource());
    own.buffer = buffer;
    own.connect(context.destination);
    own.onended = () => node === own && stop();
    own.start(0, from, seconds);
    playing.value = true;
  }
  function toggle(source: SoundSource): void {
    if (playing.value) return stop();
    const sound = source.kind === 'made' ? kitSoundOf(source.sound, SAMPLE_RATE) : musicOf(source.asset);
    if (!sound) return;
    if (source.kind === 'file') play(sound, source.trim, source.seconds);
    else play(sound);
  }
  onBeforeUnmount(() => {
    stop();
    void context?.close();
  });
  return { playing, play, stop, toggle };
}
