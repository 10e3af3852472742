import { makeTrack, writeWav, type MadeTrack, type TrackPlan } from '@tender-orbit/core/audio';

/** Music made off the main thread: what is played, and the file of it. */
export type MusicReply = { made: MadeTrack; wav: Uint8Array } | { problem: string };

self.onmessage = ({ data }: MessageEvent<TrackPlan>) => {
  try {
    const made = makeTrack(data);
    self.postMessage({ made, wav: writeWav(made.sound) } satisfies MusicReply);
  } catch {
    self.postMessage({ problem: 'This music could not be made: try another seed.' } satisfies MusicReply);
  }
};
