import {
  mdiBlur,
  mdiBlurRadial,
  mdiCameraIris,
  mdiCircleMultipleOutline,
  mdiChartBellCurve,
  mdiEyedropper,
  mdiFilmstrip,
  mdiFormatText,
  mdiGradientVertical,
  mdiImageOutline,
  mdiMovieOpenOutline,
  mdiShapeOutline,
  mdiSquareRounded,
  mdiTableLarge,
  mdiTune,
  mdiWeatherWindy,
} from '@mdi/js';
import type { LayerKind } from '@tender-orbit/core/document';

/** A small picture for each kind of layer. */
export const LAYER_ICONS: Record<LayerKind, string> = {
  take: mdiMovieOpenOutline,
  solid: mdiSquareRounded,
  gradient: mdiGradientVertical,
  repeater: mdiCircleMultipleOutline,
  shape: mdiShapeOutline,
  vapour: mdiWeatherWindy,
  specks: mdiBlurRadial,
  text: mdiFormatText,
  still: mdiImageOutline,
  footage: mdiFilmstrip,
  grade: mdiTune,
  tones: mdiChartBellCurve,
  qualifier: mdiEyedropper,
  lut: mdiTableLarge,
  filter: mdiBlur,
  lens: mdiCameraIris,
};
