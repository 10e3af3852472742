import { analyseMusic, type MusicAnalysis } from '@tender-orbit/core/audio';
import { Problem } from '@tender-orbit/core/problem';

/** Finds beats, bars and parts of music. */
export interface BeatsRequest {
  key: string;
  sampleRate: number;
  left: Float32Array;
  right: Float32Array;
}

export interface BeatsReply {
  key: string;
  analysis?: MusicAnalysis;
  /** Why there is none, in a sentence. */
  problem?: string;
}

self.onmessage = ({ data }: MessageEvent<BeatsRequest>) => {
  const { key, ...sound } = data;
  try {
    self.postMessage({ key, analysis: analyseMusic(sound) } satisfies BeatsReply);
  } catch (error) {
    const problem = error instanceof Problem ? error.message : 'The beats of this music could not be found.';
    self.postMessage({ key, problem } satisfies BeatsReply);
  }
};
