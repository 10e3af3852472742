import * as yup from 'yup';
import type { FilePose } from '../document/index.ts';
import type { ModelReport } from '../interchange/index.ts';
import type { StoredDocument } from './documents.ts';

const HASH = /^[0-9a-f]{64}$/;
const asset = yup.string().strict().required().matches(HASH, 'The uploaded file is not known here: upload it again.');
const fileName = yup
  .string()
  .strict()
  .required('The file name is missing.')
  .max(255, 'The file name is longer than 255 characters.');

export interface UploadedAsset {
  hash: string;
  mime: string;
  size: number;
}

/** Files that a model may bring along. */
const MOST_RESOURCES = 2000;

/** A model file to make a product of; resources by the name that the file calls them. */
export const importBody = yup.object({
  fileName,
  asset,
  resources: yup
    .mixed<Record<string, string>>(
      (v): v is Record<string, string> =>
        typeof v === 'object' && v !== null && Object.values(v).every((h) => typeof h === 'string' && HASH.test(h)),
    )
    .test(
      'few',
      `More than ${MOST_RESOURCES} files came with the model: pack it as one .glb.`,
      (v) => Object.keys(v ?? {}).length <= MOST_RESOURCES,
    )
    .default({}),
});
export interface ImportRequest {
  fileName: string;
  asset: string;
  resources: Record<string, string>;
}

/** A product made of a model file, and what a person should know of the file. */
export interface ModelMade extends StoredDocument<'product'> {
  report: ModelReport;
}

/** A moment of an animation of a product's file that it is to stand at; nothing is as the file's nodes stand. */
export const poseBody = yup.object({
  pose: yup
    .object({
      animation: yup.number().strict().integer().min(0).max(10_000).required('Say which animation.'),
      seconds: yup.number().strict().min(0).max(100_000).required('Say at what time.'),
    })
    .nullable()
    .default(null),
});
export interface PoseRequest {
  pose: FilePose | null;
}

/** The model that a product stands in after it was posed anew. */
export interface PoseMade {
  model: string;
  extent: [number, number, number];
  pose: FilePose | null;
}

export const musicBody = yup.object({ asset, fileName });

/** Music in the working format, as a promo refers to it. */
export interface MusicMade {
  asset: string;
  /** File of its peaks, 100 bytes a second. */
  peaks: string;
  name: string;
  seconds: number;
}

export const fontBody = yup.object({ asset, fileName });

/** A font that titles can be set in. */
export interface FontMade {
  asset: string;
  /** As the font calls itself. */
  name: string;
}

/** A picture to make plain. Of `data` - a normal map, say - the numbers count, not the colours that they stand for. */
export const pictureBody = yup.object({
  asset,
  fileName,
  longest: yup.number().integer().min(16).max(8192).default(4096),
  data: yup.boolean().default(false),
});

/** A stored picture that every decoder reads alike: upright, in sRGB, eight bits a channel. */
export interface PictureMade {
  asset: string;
  width: number;
  height: number;
}

/** Frames that a film of the composite may have: half a minute at 60 a second. */
export const LONGEST_FOOTAGE = 1800;

/**
 * A film to make a picture of each frame of; a rate of 0 is its own. `whole`: one that is longer is refused, not cut. `sound`: its sound
 * is kept too.
 */
export const filmBody = yup.object({
  asset,
  fileName,
  rate: yup.number().min(0).max(120).default(0),
  most: yup.number().integer().min(1).max(LONGEST_FOOTAGE).default(LONGEST_FOOTAGE),
  whole: yup.boolean().default(true),
  longest: yup.number().integer().min(16).max(4096).default(1920),
  exact: yup.boolean().default(true),
  sound: yup.boolean().default(false),
});
export type FilmRequest = yup.InferType<typeof filmBody>;

/** A film as pictures at a constant rate. */
export interface FilmMade {
  /** File that lists the frames, one hash a line. */
  list: string;
  frames: string[];
  width: number;
  height: number;
  /** Frames a second. */
  rate: number;
  /** It goes on after these frames. */
  cut: boolean;
  /** Its sound, as far as it has one and it was asked for. */
  sound?: string;
}

/** Stored pictures that make a film, in order; one of them is a still. */
export const sequenceBody = yup.object({
  frames: yup
    .array()
    .of(asset)
    .required('The frames are missing.')
    .min(1, 'A sequence needs a picture at least.')
    .max(LONGEST_FOOTAGE, `A sequence has at most ${LONGEST_FOOTAGE} pictures: bring a part of it.`),
});
export interface SequenceMade {
  list: string;
}

export const panoramaBody = yup.object({
  asset,
  fileName,
  fit: yup.string().oneOf(['stretch', 'fill', '']).default(''),
  mirror: yup.boolean().default(false),
});

/** A panorama all round, as rooms refer to it. */
export interface PanoramaMade {
  asset: string;
}

/** Code of the problem that a panorama is not all round and needs a choice. */
export const PANORAMA_SHAPE = 'panorama/shape';
