import { MUSIC_THING } from '@tender-orbit/core/document';
import { computed, onBeforeUnmount, ref, shallowRef, toRaw, watch, type ComputedRef, type Ref } from 'vue';
import { SAMPLE_RATE, type Sound } from '@tender-orbit/core/audio';
import { promoLength, soundFilesOf, type SoundStems } from '@tender-orbit/core/promo';
import { framesToSeconds, secondsToFrames } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { musicOf } from '../music/music.ts';
import { MixClient } from './mix-client.ts';
import { usePromo } from './use-promo.ts';

export interface PromoPlayer {
  playing: Ref<boolean>;
  track: ComputedRef<Sound | null>;
  /** The rows of the mixer that it is made of. */
  stems: Readonly<Ref<SoundStems | null>>;
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

  const stems = shallowRef<SoundStems | null>(null);
  const mixer = new MixClient((heard) => (stems.value = heard));
  /** Mixed anew only when what it hangs on has changed: most edits of a promo leave its sound as it is. */
  const wanted = computed(() => {
    if (!promo.value) return null;
    const asset = promo.value.music?.asset ?? '';
    const sound = musicOf(asset);
    const files = new Map<string, Sound>();
    for (const of of soundFilesOf(promo.value, campaign.cuts, campaign.rate).keys()) {
      const file = musicOf(of);
      if (file) files.set(of, file);
    }
    return { music: sound ? { asset, sound } : null, files };
  });
  const hangsOn = computed(() => {
    if (!promo.value || !wanted.value) return '';
    const { music, mixer: rows, tracks, eases, sounds } = promo.value;
    const own = tracks.filter((t) => t.thing === MUSIC_THING || sounds.some(({ id }) => id === t.thing));
    const there = [wanted.value.music !== null, [...wanted.value.files.keys()]];
    const about = [music, rows, own, eases, sounds, there, promoLength(promo.value), campaign.rate];
    // Pictures are heard only where they have sounds that are asked for.
    const { clips, overlays, footage } = promo.value;
    const shown = [...clips, ...overlays].some(({ sound }) => sound) ? [clips, overlays, footage, campaign.cuts] : [];
    return JSON.stringify([about, shown]);
  });
  watch(
    hangsOn,
    (on) => {
      if (on === '') stems.value = null;
      else mixer.ask({ promo: toRaw(promo.value!), rate: campaign.rate, cuts: campaign.cuts, ...wanted.value! });
    },
    { immediate: true },
  );

  const track = computed(() => stems.value?.out ?? null);

  function stop(): void {
    playing.value = false;
    cancelAnimationFrame(request);
    source?.stop();
    source?.disconnect();
    source = null;
  }

  async function play(): Promise<void> {
    await mixer.settled();
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
    mixer.close();
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
