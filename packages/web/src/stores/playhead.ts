import { defineStore } from 'pinia';
import { ref } from 'vue';
import { secondsToFrames, type FrameRate } from '@tender-orbit/core/time';

/** The frame that Set, Moves and Composite show, and its playing in real time. */
export const usePlayhead = defineStore('playhead', () => {
  const frame = ref(0);
  const playing = ref(false);
  let request = 0;

  function play(length: number, rate: FrameRate): void {
    if (playing.value) {
      stop();
      return;
    }
    playing.value = true;
    const from = frame.value >= length - 1 ? 0 : frame.value;
    const began = performance.now();
    const tick = (): void => {
      if (!playing.value) return;
      // The clock leads, not the pictures: a slow viewer drops frames and keeps the pace.
      frame.value = (from + Math.floor(secondsToFrames((performance.now() - began) / 1000, rate))) % length;
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

  return { frame, playing, play, stop, seek };
});
