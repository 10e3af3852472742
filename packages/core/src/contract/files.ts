import * as yup from 'yup';

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

export const musicBody = yup.object({ asset, fileName });

/** Music in the working format, as a promo refers to it. */
export interface MusicMade {
  asset: string;
  name: string;
  seconds: number;
}
