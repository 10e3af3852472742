import type { FrameRate } from '../../time/index.ts';
import type { Command } from '../edit.ts';
import type { CampaignDocument, CampaignFont, SavedKit } from './types.ts';

type CampaignCommand = Command<CampaignDocument>;

/** What of the brief is written as text. */
export type BriefField = 'name' | 'client' | 'message' | 'notes';

export function writeBrief(field: BriefField, text: string): CampaignCommand {
  return { label: `Write ${field}`, run: (campaign) => void (campaign[field] = text) };
}

export function chooseFrameRate(rate: FrameRate): CampaignCommand {
  return { label: 'Choose frame rate', run: (campaign) => void (campaign.frameRate = rate) };
}

/** Puts the storyboard in order. @param shots their ids, all of them. */
export function orderBoards(shots: readonly string[]): CampaignCommand {
  return { label: 'Change the order of shots', run: (campaign) => void (campaign.boards = [...shots]) };
}

/** Shots in the storyboard's order: those that it does not name come last, in the order given. */
export function inBoardOrder<T extends { id: string }>({ boards }: CampaignDocument, shots: readonly T[]): T[] {
  const rank = new Map(boards.map((id, i) => [id, i]));
  return [...shots].sort((a, b) => (rank.get(a.id) ?? boards.length) - (rank.get(b.id) ?? boards.length));
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

/** Lists a font for all texts of the campaign; one that is listed already takes its new name. */
export function bringFont(font: CampaignFont): CampaignCommand {
  return {
    label: 'Bring font',
    run: (campaign) =>
      void (campaign.fonts = [...(campaign.fonts ?? []).filter(({ asset }) => asset !== font.asset), { ...font }]),
  };
}

/** Takes a font off the list; texts that are set in it keep it. */
export function forgetFont(asset: string): CampaignCommand {
  return {
    label: 'Take font off the list',
    run: (campaign) => {
      campaign.fonts = (campaign.fonts ?? []).filter((font) => font.asset !== asset);
      if (campaign.fonts.length === 0) delete campaign.fonts;
    },
  };
}
