export type {
  CampaignBundle,
  CampaignCard,
  DeliverySummary,
  Estimate,
  KeptLook,
  KeptTitleStyle,
  MusicMade,
  Person,
  RevisionEntry,
  SavedRevision,
  SessionAnswer,
  StaleSave,
  StoredDocument,
  TakeMade,
  TakeRequest,
  SimulationEstimate,
  SimulationSummary,
  TakeSummary,
  UploadedAsset,
  WorkEvent,
} from '@tender-orbit/core/contract';

/** Address of a finished frame of a take. */
export function frameUrl(take: string, frame: number): string {
  return `/api/takes/${take}/frames/${frame}`;
}

/** A frame's light, compressed; takes of before there was a compositor have none. */
export function lightUrl(take: string, frame: number): string {
  return `${frameUrl(take, frame)}/light`;
}

/** A frame light by light, of takes that keep it. */
export function lightsUrl(take: string, frame: number): string {
  return `/api/takes/${take}/frames/${frame}/lights`;
}

/** A frame's passes as one layered OpenEXR file. */
export function layersUrl(take: string, frame: number): string {
  return `${frameUrl(take, frame)}/layers`;
}
