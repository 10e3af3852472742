export { betweenLight } from './between-frames.ts';
export { compose } from './compose.ts';
export type { ComposeInput, TextDrawer } from './input.ts';
export { compileLayers, drawnWith, type LayerProgram, type SeenLayer } from './layers-at.ts';
export {
  lightOfPicture,
  NOTHING,
  readDepths,
  readLight,
  readLightParts,
  writeLight,
  writeLightParts,
  type Covered,
  type FrameDepths,
  type DepthFrame,
  type LightFrame,
  type LightPart,
  type LightParts,
} from './light-frame.ts';
export { cardInSet, defocusOf, hiddenInSet, spotOf, standsAt, type StandsInSet } from './in-set.ts';
export { cornerHomography, cornersOf, crop, type Pinned } from './corner-pin.ts';
export { gainOf } from './faders.ts';
export { finishCover, maskPointsAt, thingCover } from './mask.ts';
export { readVector, type VectorPicture, type VectorShape } from './vector.ts';
export { blend } from './blend.ts';
export { blurPlate, gaussianWeights, Pyramid } from './blur.ts';
export { applyFilter } from './filter.ts';
export { applyGrade, grader, whiteBalance } from './grade.ts';
export { applyLens } from './lens.ts';
export { applyCube, readCube, writeCube, type Cube } from './cube.ts';
export { colourMatch, colourStatistics, fromOklab, toOklab, type ColourStatistics } from './match.ts';
export { curveRound, curvesOf, curveThrough } from './curves.ts';
export { fromPuck, fromWheels, toPuck, toWheels, type Wheels, type WheelValues } from './wheels.ts';
export { monotoneCurve, qualified, qualifierOf, tonesOf } from './tones.ts';
export { pin } from './warp.ts';
export { filmFrame, filmKey, type FilmFrame } from './footage.ts';
export { logoPlace, logoShape, type LogoShape } from './logo-reveal.ts';
export { coveringScale, homographyOf, inverseOf, placeOf, type Homography, type Place, type Placed } from './place.ts';
export { PictureCache } from './picture-cache.ts';
export { pointSeen, pointUnder, type PointInSet } from './point-in-take.ts';
export { canTrace, tracedCard, type TracedCard } from './trace-in-set.ts';
export { smallLight } from './small-light.ts';
export { StackCache } from './stack-cache.ts';
export { Plates, type PictureKernel, type Plate } from './plate.ts';
export { warp } from './warp.ts';
export {
  asked,
  composeShot,
  composeTake,
  layersOver,
  type CompositeReader,
  type CompositeSources,
} from './compose-shot.ts';
export { stillPlate } from './stills.ts';
export { drawTransition } from './transition.ts';
export { smokeFront, type SmokeFront } from './smoke-front.ts';
