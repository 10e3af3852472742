export * from './types.ts';
export { CLIP_PATHS, CLIP_PROPERTIES, newClipPicture, type ClipPath, type ClipPicture } from './clip-picture.ts';
export * from './clip-commands.ts';
export * from './defaults.ts';
export * from './commands.ts';
