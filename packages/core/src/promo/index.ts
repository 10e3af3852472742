export * from './cut.ts';
export * from './pace.ts';
export * from './framing.ts';
export * from './picture-recipes.ts';
export * from './trim.ts';
export * from './nested.ts';
export { clipOfPart, insertClip, PART_FITS, type Part, type PartFit } from './insert.ts';
export * from './rows.ts';
export * from './cut-on-beats.ts';
export {
  BASE_FONTS,
  fontFiles,
  fontModule,
  layerTexts,
  promoTexts,
  TITLE_FONTS,
  type FontedText,
  type TitleFont,
  ownFontAsset,
} from './fonts.ts';
export { countedTitle, countUp, fillIn, filledTitle, slotsOf } from './variables.ts';
export * from './captions.ts';
export * from './draw-title.ts';
export * from './title-bend.ts';
export * from './title-now.ts';
export * from './callout.ts';
export { keyedValues } from './keyed-values.ts';
export { fitTitles, type TitleBox, type TitleBoxOf } from './fit-titles.ts';
export { TITLE_MOVES, titleMove, type TitleMove } from './title-moves.ts';
export * from './title-pose.ts';
export { TITLE_LOOKS, type TitleLook } from './title-looks.ts';
export { partTimes, titleParts } from './title-parts.ts';
export { footageLength, overlayFrames, overlayValues, type TakeLength } from './overlays.ts';
export * from './assemble.ts';
export { frameKey } from './frame-key.ts';
export { scaledPromo } from './scaled-promo.ts';
export * from './sound-track.ts';
export { ownPeaks, type HeardSource } from './clip-sounds.ts';
export { hasSound, heardOfCut, soundFilesOf } from './sound-files.ts';
export * from './music-time.ts';
export { kitSoundOf, soundSeconds, soundSpan } from './sounds.ts';
export * from './sound-the-cut.ts';
export { soundOfMove, type MoveSource } from './sound-the-move.ts';
export { reframed, type Focus, type FocusOf, type Reframing } from './reframe.ts';
export { textDrawer } from './text-layer.ts';
export { drawnShare, strokePath, trimmed } from './draw-lines.ts';
