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

/** A model file to make a product of; resources by the name that the file calls them. */
export const importBody = yup.object({
  fileName,
  asset,
  resources: yup
    .mixed<Record<string, string>>(
      (v): v is Record<string, string> =>
        typeof v === 'object' && v !== null && Object.values(v).every((h) => typeof h === 'string' && HASH.test(h)),
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
  name: string;
  seconds: number;
}
