import type { CampaignDocument, DocumentKind, DocumentKinds } from '@tender-orbit/core/document';

export interface Person {
  id: string;
  email: string;
  name: string;
}

export interface StoredDocument<K extends DocumentKind = DocumentKind> {
  id: string;
  revision: number;
  document: DocumentKinds[K];
}

export interface TakeSummary {
  id: string;
  shot: string;
  name: string;
  quality: 'clay' | 'draft' | 'final';
  width: number;
  height: number;
  length: number;
  state: 'rendering' | 'stopped' | 'done' | 'failed';
  error: string | null;
  done: number[];
  secondsPerFrame: number | null;
  secondsLeft: number | null;
  createdAt: string;
  /** Whether each frame's layers are kept. */
  passes: boolean;
}

export interface DeliverySummary {
  id: string;
  promo: string;
  name: string;
  format: 'mp4' | 'webm';
  state: 'waiting' | 'working' | 'done' | 'failed' | 'stopped';
  progress: number;
  size: number | null;
  error: string | null;
  frames: number;
  width: number;
  height: number;
  createdAt: string;
}

export interface CampaignBundle {
  campaign: StoredDocument<'campaign'>;
  products: Array<StoredDocument<'product'>>;
  sets: Array<StoredDocument<'set'>>;
  shots: Array<StoredDocument<'shot'>>;
  promos: Array<StoredDocument<'promo'>>;
  takes: TakeSummary[];
  deliveries: DeliverySummary[];
}

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

export interface Estimate {
  frames: number;
  secondsPerFrame: number;
  seconds: number;
}

export interface RevisionEntry {
  revision: number;
  label: string;
  person: string | null;
  at: string;
}

/** Address of a finished frame of a take. */
export function frameUrl(take: string, frame: number): string {
  return `/api/takes/${take}/frames/${frame}`;
}

/** A frame's passes as one layered OpenEXR file. */
export function layersUrl(take: string, frame: number): string {
  return `${frameUrl(take, frame)}/layers`;
}
