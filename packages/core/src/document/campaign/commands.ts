import type { FrameRate } from '../../time/index.ts';
import type { Command } from '../edit.ts';
import type { CampaignDocument, SavedKit } from './types.ts';

type CampaignCommand = Command<CampaignDocument>;

/** What of the brief is written as text. */
export type BriefField = 'name' | 'client' | 'message' | 'notes';

export function writeBrief(field: BriefField, text: string): CampaignCommand {
  return { label: `Write ${field}`, run: (campaign) => void (campaign[field] = text) };
}

export function chooseFrameRate(rate: FrameRate): CampaignCommand {
  return { label: 'Choose frame rate', run: (campaign) => void (campaign.frameRate = rate) };
}

/** Keeps a lighting set-up for all sets of the campaign. */
export function saveKit(kit: SavedKit): CampaignCommand {
  return { label: 'Save light kit', run: (campaign) => void campaign.kits.push(kit) };
}

export function deleteKit(id: string): CampaignCommand {
  return {
    label: 'Delete light kit',
    run: (campaign) => void (campaign.kits = campaign.kits.filter((kit) => kit.id !== id)),
  };
}
