import type { CampaignDocument } from './types.ts';

export function newCampaign(name: string, values: Partial<CampaignDocument> = {}): CampaignDocument {
  return {
    version: 5,
    kits: [],
    boards: [],
    name,
    client: '',
    message: '',
    notes: '',
    frameRate: { num: 24, den: 1 },
    width: 1280,
    height: 720,
    ...values,
  };
}
