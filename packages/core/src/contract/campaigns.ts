import * as yup from 'yup';
import type { CampaignDocument } from '../document/index.ts';
import type { DeliverySummary } from './deliveries.ts';
import type { StoredDocument } from './documents.ts';
import type { SimulationSummary } from './simulations.ts';
import type { TakeSummary } from './takes.ts';

/** A campaign in the list of a person's campaigns. */
export interface CampaignCard {
  id: string;
  document: CampaignDocument;
  updated: string;
  products: number;
  shots: number;
  takes: number;
  /** A finished take to show, and its middle frame. */
  cover: string | null;
  coverFrame: number;
}

export interface CampaignBundle {
  campaign: StoredDocument<'campaign'>;
  products: Array<StoredDocument<'product'>>;
  sets: Array<StoredDocument<'set'>>;
  shots: Array<StoredDocument<'shot'>>;
  promos: Array<StoredDocument<'promo'>>;
  takes: TakeSummary[];
  deliveries: DeliverySummary[];
  simulations: SimulationSummary[];
}

export const newCampaignBody = yup.object({
  name: yup
    .string()
    .strict()
    .trim()
    .required('Give the campaign a name.')
    .max(120, 'The campaign name is longer than 120 characters: shorten it.'),
  client: yup.string().strict().max(120, 'The client name is longer than 120 characters: shorten it.').default(''),
  frameRate: yup
    .object({ num: yup.number().strict().integer().required(), den: yup.number().strict().integer().required() })
    .required('Choose a frame rate.'),
  width: yup.number().strict().integer().required('Choose a picture size.'),
  height: yup.number().strict().integer().required('Choose a picture size.'),
});

/** What the server tells an open campaign whenever work on it moves on (server-sent event `work`). */
export interface WorkEvent {
  takes: TakeSummary[];
  deliveries: DeliverySummary[];
  simulations: SimulationSummary[];
}
