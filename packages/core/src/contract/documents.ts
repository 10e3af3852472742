import * as yup from 'yup';
import type { DocumentKind, DocumentKinds } from '../document/index.ts';

export interface StoredDocument<K extends DocumentKind = DocumentKind> {
  id: string;
  revision: number;
  document: DocumentKinds[K];
}

export const saveBody = yup.object({
  expectedRevision: yup.number().strict().integer().required('The expected revision is missing.'),
  label: yup.string().strict().max(200),
  document: yup.mixed().required('The document is missing.'),
});

/** What a save answers. */
export interface SavedRevision {
  id: string;
  revision: number;
}

/** What a stale save answers besides its sentence (409): what the server has instead. */
export interface StaleSave {
  revision: number;
  document: DocumentKinds[DocumentKind];
}

export interface RevisionEntry {
  revision: number;
  label: string;
  /** A name that somebody gave it: such a revision is kept for good. */
  name: string | null;
  person: string | null;
  at: string;
}

export const nameRevisionBody = yup.object({
  name: yup.string().strict().defined().trim().max(120, 'The name is longer than 120 characters: shorten it.'),
});
