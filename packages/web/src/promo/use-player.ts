import { MUSIC_THING } from '@tender-orbit/core/document';
import { computed, onBeforeUnmount, ref, toRaw, watch, type ComputedRef, type Ref } from 'vue';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import { promoLength, soundStems, type SoundStems } from '@tender-orbit/core/promo';
import { framesToSeconds, secondsToFrames } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { musicOf } from '../music/music.ts';
import { usePromo } from './use-promo.ts';

export interface PromoPlayer {
  playing: Ref<boolean>;
  track: ComputedRef<Sound | null>;
  /** The rows of the mixer that it is made of. */
  stems: ComputedRef<SoundStems | null>;
  toggle: () => void;
  seek: (frame: number) => void;
}

/** Plays the promo's sound, round and round where it is bounded, and moves the frame with it: the sound card's clock leads, pictures that are late are left out. */
export function usePlayer(): PromoPlayer {
  const campaign = useCampaign();
  const { promo, length, frame, range } = usePromo();
  const playing = ref(false);
  let context: AudioContext | null = null;
  let source: AudioBufferSourceNode | null = null;
  let request = 0;

  let made = { from: '', music: null as Sound | null };
  /** Worked out anew only when what it hangs on has changed: most edits of a promo leave its sound as it is. */
  const stems = computed<SoundStems | null>((known) => {
    if (!promo.value) return null;
    const music = musicOf(promo.value.music?.asset) ?? null;
    const { sounds, mixer, tracks } = promo.value;
    const files = new Map<string, Sound>();
    for (const { source: of } of sounds) {
      const file = of.kind === 'file' ? musicOf(of.asset) : undefined;
      if (file && of.kind === 'file') files.set(of.asset, file);
    }
    const from = JSON.stringify([
      promo.value.music,
      mixer,
      tracks.filter((t) => t.thing === MUSIC_THING || sounds.some(({ id }) => id === t.thing)),
      promo.value.eases,
      sounds,
      [...files.keys()],
      promoLength(promo.value),
      campaign.rate,
    ]);
    if (known && made.from === from && made.music === music) return known;
    made = { from, music };
    return soundStems(toRaw(promo.value), campaign.rate, music, SAMPLE_RATE, files);
  });

  const track = computed(() => stems.value?.out ?? null);

  function stop(): void {
    playing.value = false;
    cancelAnimationFrame(request);
    source?.stop();
    source?.disconnect();
    source = null;
  }

  async function play(): Promise<void> {
    if (!track.value || track.value.left.length === 0) return;
    context ??= new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: 'interactive' });
    await context.resume();
    const loop = range.value;
    const [first, last] = [loop?.from ?? 0, Math.min(loop?.to ?? length.value, length.value)];
    const from = frame.value >= first && frame.value < last - 1 ? frame.value : first;
    const buffer = context.createBuffer(2, track.value.left.length, SAMPLE_RATE);
    buffer.copyToChannel(new Float32Array(track.value.left), 0);
    buffer.copyToChannel(new Float32Array(track.value.right), 1);
    source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    if (loop) {
      source.loop = true;
      source.loopStart = framesToSeconds(first, campaign.rate);
      source.loopEnd = framesToSeconds(last, campaign.rate);
    }
    const began = context.currentTime + 0.04;
    source.start(began, framesToSeconds(from, campaign.rate));
    playing.value = true;
    const tick = (): void => {
      if (!playing.value) return;
      // What is heard now left the context one output latency ago.
      const heard = context!.currentTime - began - (context!.outputLatency || 0);
      const now = from + Math.floor(secondsToFrames(Math.max(0, heard), campaign.rate) + 1e-6);
      if (now >= last && !loop) {
        stop();
        frame.value = last - 1;
        return;
      }
      frame.value = now < last ? now : first + ((now - first) % (last - first));
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
  }

  watch([track, range], () => playing.value && stop());
  onBeforeUnmount(() => {
    stop();
    void context?.close();
  });

  return {
    playing,
    track,
    stems,
    toggle: () => (playing.value ? stop() : void play()),
    seek: (to) => {
      stop();
      frame.value = Math.min(length.value - 1, Math.max(0, Math.round(to)));
    },
  };
}
