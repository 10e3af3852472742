import type { DocumentKind } from '@tender-orbit/core/document';

/** What has not reached the server yet, kept in the browser so that a reload or a lost connection costs nothing. */
export interface Unsaved {
  /** Revision the edits were made on. */
  base: number;
  document: unknown;
}

const name = (kind: DocumentKind, id: string): string => `tender-orbit:unsaved:${kind}:${id}`;

export function keepUnsaved(kind: DocumentKind, id: string, unsaved: Unsaved): void {
  try {
    localStorage.setItem(name(kind, id), JSON.stringify(unsaved));
  } catch {
    // A full or forbidden storage only loses the safety net, not the document in memory.
  }
}

export function findUnsaved(kind: DocumentKind, id: string): Unsaved | null {
  try {
    const text = localStorage.getItem(name(kind, id));
    return text ? (JSON.parse(text) as Unsaved) : null;
  } catch {
    return null;
  }
}

export function forgetUnsaved(kind: DocumentKind, id: string): void {
  try {
    localStorage.removeItem(name(kind, id));
  } catch {
    // See keepUnsaved().
  }
}
