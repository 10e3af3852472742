export * from './types.ts';
export {
  EASE_LIMITS,
  PLAIN_EASES,
  USUAL_EASES,
  type Ease,
  type EaseShape,
  type LinkedEase,
  type PlainEase,
} from './eases.ts';
export * from './defaults.ts';
export * from './tracks.ts';
export * from './commands.ts';
