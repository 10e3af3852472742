export * from './cut.ts';
export * from './fonts.ts';
export * from './draw-title.ts';
export * from './assemble.ts';
export * from './sound-track.ts';
export { textDrawer } from './text-layer.ts';
