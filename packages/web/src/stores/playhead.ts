import { defineStore } from 'pinia';
import { ref } from 'vue';
import { framesToSeconds, secondsToFrames, type FrameRate } from '@tender-orbit/core/time';

/** The frame that Set, Moves and Composite show, and its playing in real time. */
export const usePlayhead = defineStore('playhead', () => {
  const frame = ref(0);
  const playing = ref(false);
  /** Frames that are played round and round, `to` not among them; null: all. */
  const range = ref<{ from: number; to: number } | null>(null);
  let request = 0;
  /** Seconds that lead the pictures while something sounds: the sound card's; null: the computer's own. */
  let clock: (() => number) | null = null;

  /** Plays round and round from where it stands, or stops. */
  function play(length: number, rate: FrameRate): void {
    if (playing.value) {
      stop();
      return;
    }
    const first = Math.min(range.value?.from ?? 0, length - 1);
    const last = Math.max(first + 1, Math.min(range.value?.to ?? length, length));
    const around = last - first;
    const from = frame.value >= first && frame.value < last - 1 ? frame.value : first;
    frame.value = from;
    playing.value = true;
    const now = (): number => clock?.() ?? performance.now() / 1000;
    let leader = clock;
    let began = now();
    const tick = (): void => {
      if (!playing.value) return;
      // The clock leads, not the pictures: a slow viewer drops frames and keeps the pace.
      if (clock !== leader) {
        // Sound has begun under way: from here on it leads.
        leader = clock;
        began = now() - framesToSeconds((frame.value - from + around) % around, rate);
      }
      const gone = Math.max(0, Math.floor(secondsToFrames(now() - began, rate)));
      frame.value = first + ((from - first + gone) % around);
      request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
  }

  function stop(): void {
    playing.value = false;
    cancelAnimationFrame(request);
  }

  function seek(to: number, length: number): void {
    stop();
    frame.value = Math.min(length - 1, Math.max(0, Math.round(to)));
  }

  /** Gives the lead to another clock, or takes it back. */
  function follow(other: (() => number) | null): void {
    clock = other;
  }

  /** Bounds what is played, by one end or both; what would hold no two frames is all of it. */
  function loop(ends: { from?: number; to?: number } | null, length: number): void {
    const from = Math.round(ends?.from ?? range.value?.from ?? 0);
    const to = Math.round(ends?.to ?? range.value?.to ?? length);
    const whole = ends === null || to - from < 2 || (from <= 0 && to >= length);
    range.value = whole ? null : { from: Math.max(0, from), to: Math.min(length, to) };
  }

  return { frame, playing, range, play, stop, seek, follow, loop };
});
