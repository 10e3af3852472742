import * as yup from 'yup';
import { EFFECT_LEVELS, type EffectLevel } from '../document/index.ts';

/** Room on disk that simulated frames take, of all campaigns. */
export interface SimulationsUsed {
  bytes: number;
}

/** Which effect of which shot is simulated on the server, and how finely. */
export interface SimulationAsked {
  shot: string;
  effect: string;
  level: EffectLevel;
}

export const simulationBody = yup.object({
  shot: yup.string().strict().required('Choose a shot.').max(16),
  effect: yup.string().strict().required('Choose an effect.').max(64),
  level: yup
    .string()
    .strict()
    .oneOf([...EFFECT_LEVELS], 'The level must be coarse, normal or fine.')
    .required('Choose a level.'),
});

export type SimulationState = 'running' | 'stopped' | 'done' | 'failed';

/** An effect that is simulated on the server apart from any take. */
export interface SimulationSummary extends SimulationAsked {
  id: string;
  state: SimulationState;
  /** Frames to be simulated, and how many are there, from the first on. */
  frames: number;
  done: number;
  /** What is left at the pace so far; null before anything is there and at the end. */
  secondsLeft: number | null;
  error: string | null;
}

export interface SimulationEstimate {
  frames: number;
  /** 0 when all of it is there. */
  seconds: number;
}
