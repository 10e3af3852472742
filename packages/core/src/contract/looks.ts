import * as yup from 'yup';
import type { ShotDocument, TitleStyle } from '../document/index.ts';

/** Layers with their keys that a person keeps. */
export interface KeptLook {
  id: string;
  name: string;
  /** See lookFrom(). */
  look: ShotDocument;
}

/** A person keeps so many looks, each of so many layers, at most. */
export const MOST_LOOKS = 100;
export const MOST_LOOK_LAYERS = 60;

export const lookBody = yup.object({
  name: yup
    .string()
    .strict()
    .trim()
    .required('Give the look a name.')
    .max(120, 'The name is longer than 120 characters.'),
  look: yup.mixed<object>().required('The look is missing.'),
});

/** A style of titles that a person keeps; sizes are of a promo 540 pixels high. */
export interface KeptTitleStyle {
  id: string;
  name: string;
  style: TitleStyle;
}

export const titleStyleBody = yup.object({
  name: yup
    .string()
    .strict()
    .trim()
    .required('Give the style a name.')
    .max(120, 'The name is longer than 120 characters.'),
  style: yup.mixed<object>().required('The style is missing.'),
});
