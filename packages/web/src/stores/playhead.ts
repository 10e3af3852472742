import { defineStore } from 'pinia';
import { ref } from 'vue';
import { framesToSeconds, secondsToFrames, type FrameRate } from '@tender-orbit/core/time';

/** The frame that Set, Moves and Composite show, and its playing in real time. */
export const usePlayhead = defineStore('playhead', () => {
  const frame = ref(0);
  const playing = ref(false);
  let request = 0;
  /** Seconds that lead the pictures while something sounds: the sound card's; null: the computer's own. */
  let clock: (() => number) | null = null;

  /** Plays round and round from where it stands, or stops. */
  function play(length: number, rate: FrameRate): void {
    if (playing.value) {
      stop();
      return;
    }
    const from = frame.value >= length - 1 ? 0 : frame.value;
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
        began = now() - framesToSeconds((frame.value - from + length) % length, rate);
      }
      frame.value = (from + Math.max(0, Math.floor(secondsToFrames(now() - began, rate)))) % length;
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

  return { frame, playing, play, stop, seek, follow };
});
