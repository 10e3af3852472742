import * as yup from 'yup';
import {
  PROMO_LIMITS,
  TAKE_QUALITIES,
  type FrameChoice,
  type TakeQuality,
  type TakeSnapshot,
} from '../document/index.ts';

export type TakeState = 'rendering' | 'stopped' | 'done' | 'failed';

export interface TakeSummary {
  id: string;
  shot: string;
  name: string;
  quality: TakeQuality;
  width: number;
  height: number;
  length: number;
  /** The frames that are rendered; null: all of them. */
  frames: FrameChoice | null;
  /** Frames of the shot, and parts of them, that its frames show; null: the shot's whole frames. */
  times: number[] | null;
  state: TakeState;
  /** What went wrong first; the other frames go on. */
  error: string | null;
  /** Numbers of the finished frames. */
  done: number[];
  /** Numbers of the frames that failed. */
  failed: number[];
  /** Mean seconds a finished frame took in its worker; null before the first. */
  secondsPerFrame: number | null;
  /** What is left at that pace, on all render threads of this machine; null before the first frame and at the end. */
  secondsLeft: number | null;
  createdAt: string;
  /** Whether each frame's layers are kept. */
  passes: boolean;
  /** Whether each frame's lights are kept, so that they can be mixed anew. */
  lights: boolean;
  /** What its frames take on disk, with all that is kept beside them. */
  bytes: number;
}

const wholeFrame = yup.number().strict().integer().min(0).max(100000).required();

const share = yup.number().strict().min(0).max(1).required();

export const takeBody = yup.object({
  shot: yup.string().strict().required('Choose a shot.').max(16),
  quality: yup
    .string()
    .strict()
    .oneOf([...TAKE_QUALITIES], 'Quality must be sketch, clay, draft or final.')
    .required('Choose a quality.'),
  width: yup
    .number()
    .strict()
    .integer()
    .min(16, 'A take is at least 16 pixels wide.')
    .max(3840, 'A take is at most 3840 pixels wide.')
    .required('Choose a width.'),
  samples: yup
    .number()
    .strict()
    .integer()
    .min(0, 'Samples cannot be below 0.')
    .max(4096, 'At most 4096 samples a pixel.'),
  passes: yup.boolean().strict(),
  lights: yup.boolean().strict(),
  anew: yup.boolean().strict(),
  region: yup
    .object({ x0: share, y0: share, x1: share, y1: share })
    .default(undefined)
    .test('area', 'The part to render is empty: draw it larger.', (r) => !r || (r.x1! > r.x0! && r.y1! > r.y0!)),
  frames: yup
    .object({ first: wholeFrame, last: wholeFrame, step: yup.number().strict().integer().min(1).max(100).required() })
    .default(undefined)
    .test('span', 'The last frame to render lies before the first.', (f) => !f || f.last! >= f.first!),
});

/** Times of its shot, in its frames and parts of them, at which a take is to be rendered again, from the earliest to the latest. */
export const takeTimesBody = yup.object({
  times: yup
    .array(yup.number().strict().min(0, 'A time cannot be before the first frame.').max(100000).required())
    .required('Say at which times to render.')
    .min(1, 'Say at which times to render.')
    .max(PROMO_LIMITS.renderedTimes, `At most ${PROMO_LIMITS.renderedTimes} frames are rendered for a clip: split it.`)
    .test('order', 'Times must go from the earliest to the latest, each once.', (times) =>
      (times ?? []).every((time, n) => n === 0 || time > times![n - 1]),
    ),
});

/** A point of a frame, shares of the picture's height from its middle with y up, and the frames that it is to be followed through. */
export const followBody = yup.object({
  x: yup.number().strict().min(-4).max(4).required('Say where the point is.'),
  y: yup.number().strict().min(-0.5).max(0.5).required('Say where the point is.'),
  frame: wholeFrame,
  from: wholeFrame,
  to: wholeFrame.test(
    'span',
    'The last frame lies before the first.',
    (to, { parent }) => to! >= (parent as { from: number }).from,
  ),
});

/** A point of a take that was followed. */
export interface FollowedPoint {
  /** The thing of the set that it is on; empty: none that has a place of its own. */
  thing: string;
  /** The first frame of the take that it was followed in, and from there on where it is and how much of it is seen, 0..1. */
  from: number;
  track: Array<[x: number, y: number, seen: number]>;
}

export interface TakeRequest {
  shot: string;
  quality: TakeQuality;
  width: number;
  samples?: number;
  passes?: boolean;
  lights?: boolean;
  /** Renders every frame, also those that an earlier take shows already. */
  anew?: boolean;
  region?: TakeSnapshot['region'];
  frames?: FrameChoice;
}

/** Takes of a shot as they lie on the shelf, first ones first. */
export const takeOrderBody = yup.object({
  takes: yup.array(yup.string().strict().required().max(16)).required().max(5000),
});

export interface Estimate {
  /** Frames that are rendered. */
  frames: number;
  secondsPerFrame: number;
  /** Until all frames are there, effects simulated first. */
  seconds: number;
  /** Seconds of that for effects: none when what they show is simulated. */
  simulation: number;
  /** What all frames take on disk. */
  bytes: number;
  /** Layers kept of each frame, the beauty among them; 0 when none are. */
  layers: number;
}

export interface TakeMade {
  id: string;
  name: string;
}
