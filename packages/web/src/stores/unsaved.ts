import { del, get, set } from 'idb-keyval';
import { migrate, type DocumentKind, type DocumentKinds } from '@tender-orbit/core/document';

/** What has not reached the server yet, kept in the browser so that a reload or a lost connection costs nothing. */
export interface Unsaved<K extends DocumentKind = DocumentKind> {
  /** Revision the edits were made on, and what it held. */
  base: number;
  saved: DocumentKinds[K];
  document: DocumentKinds[K];
}

const name = (kind: DocumentKind, id: string): string => `tender-orbit:unsaved:${kind}:${id}`;

/** @throws when the browser's storage is full or forbidden. */
export function keepUnsaved(kind: DocumentKind, id: string, unsaved: Unsaved): Promise<void> {
  return set(name(kind, id), unsaved);
}

/** Kept edits as documents of the current version; null without any, or when the storage cannot be read. */
export async function findUnsaved<K extends DocumentKind>(kind: K, id: string): Promise<Unsaved<K> | null> {
  try {
    const kept = (await get<Unsaved<K>>(name(kind, id))) ?? olderUnsaved(kind, id);
    if (!kept) return null;
    const document = migrate(kind, kept.document);
    return { base: kept.base, saved: kept.saved ? migrate(kind, kept.saved) : document, document };
  } catch {
    return null;
  }
}

/** Edits that an earlier version of the application left in the browser's other storage. */
function olderUnsaved<K extends DocumentKind>(kind: K, id: string): Unsaved<K> | null {
  const text = globalThis.localStorage?.getItem(name(kind, id));
  return text ? (JSON.parse(text) as Unsaved<K>) : null;
}

export async function forgetUnsaved(kind: DocumentKind, id: string): Promise<void> {
  globalThis.localStorage?.removeItem(name(kind, id));
  // A storage that cannot be written has kept nothing that could be forgotten.
  await del(name(kind, id)).catch(() => undefined);
}
