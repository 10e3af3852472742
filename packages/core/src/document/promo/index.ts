export * from './types.ts';
export { CLIP_PATHS, CLIP_PROPERTIES, newClipPicture, type ClipPath, type ClipPicture } from './clip-picture.ts';
export {
  addClip,
  carryClips,
  changeClip,
  changeClips,
  CLIP_ATTRIBUTES,
  clearClipPicture,
  clipTracks,
  copyClipAttributes,
  deleteClip,
  duplicateClip,
  keyClip,
  nestInto,
  recut,
  setClipPicture,
  setPart,
  splitClip,
  swapTake,
  type ClipAttribute,
  type ClipChange,
} from './clip-commands.ts';
export {
  MUSIC_PROPERTIES,
  MUSIC_THING,
  ownSoundValues,
  SOUND_PROPERTIES,
  soundTracks,
  type SoundValues,
} from './music-properties.ts';
export * from './defaults.ts';
export * from './commands.ts';
export * from './title-commands.ts';
export * from './title-values.ts';
export * from './overlay-values.ts';
export * from './overlay-commands.ts';
export * from './group-commands.ts';
export { editedRuns, type TextEdit } from './text-runs.ts';
