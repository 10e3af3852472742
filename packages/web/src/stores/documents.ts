import { defineStore } from 'pinia';
import { computed, ref, shallowReactive, shallowRef } from 'vue';
import {
  freezeDocument,
  joinEdits,
  makeEdit,
  redoEdit,
  undoEdit,
  validateDocument,
  type DocumentKind,
  type DocumentKinds,
  type Edit,
} from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import type { Draft } from 'immer';
import { api, ApiProblem, UNREACHABLE, type StoredDocument } from '../api/index.ts';
import { findUnsaved, forgetUnsaved, keepUnsaved } from './unsaved.ts';

type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'conflict' | 'refused';

interface Entry {
  kind: DocumentKind;
  id: string;
  /** Revision the server has. */
  revision: number;
  document: DocumentKinds[DocumentKind];
  state: SaveState;
  /** Names of the edits since the last save. */
  labels: string[];
  problem: string;
}

interface HistoryStep {
  key: string;
  edit: Edit;
  gesture: string;
}

export interface Conflict {
  kind: DocumentKind;
  id: string;
  message: string;
  theirs: { revision: number; document: DocumentKinds[DocumentKind] };
}

const SAVE_DELAY = 500;
const RETRY_DELAY = 3000;
const HISTORY = 500;

/** Documents in hand: edited by commands, undone, saved by themselves. */
export const useDocuments = defineStore('documents', () => {
  const entries = shallowReactive(new Map<string, Entry>());
  const undoStack = shallowRef<HistoryStep[]>([]);
  const redoStack = shallowRef<HistoryStep[]>([]);
  const conflict = shallowRef<Conflict | null>(null);
  const saving = ref(false);
  const timers = new Map<string, ReturnType<typeof setTimeout>>();
  const keyOf = (kind: DocumentKind, id: string): string => `${kind}:${id}`;

  const state = computed<SaveState>(() => {
    const states = [...entries.values()].map((e) => e.state);
    return (
      (['conflict', 'refused', 'offline', 'saving', 'unsaved'] as const).find((s) => states.includes(s)) ?? 'saved'
    );
  });
  const problem = computed(() => [...entries.values()].find((e) => e.problem)?.problem ?? '');

  /** Takes documents that came from the server; edits that had not reached it are taken up again. */
  function load<K extends DocumentKind>(kind: K, stored: StoredDocument<K>): void {
    put({
      kind,
      id: stored.id,
      revision: stored.revision,
      document: freezeDocument(stored.document),
      state: 'saved',
      labels: [],
      problem: '',
    });
    const kept = findUnsaved(kind, stored.id);
    if (!kept) return;
    const entry = entries.get(keyOf(kind, stored.id))!;
    const document = freezeDocument(kept.document as DocumentKinds[K]);
    // The revision the edits were made on decides: the server refuses them if it has moved on, and the person chooses.
    put({ ...entry, revision: kept.base, document, state: 'unsaved', labels: ['Edits from before the reload'] });
    schedule(keyOf(kind, stored.id), 0);
  }

  /** Takes a document that the server changed by itself; steps that led to the old one can no longer be undone. */
  function replace<K extends DocumentKind>(kind: K, stored: StoredDocument<K>): void {
    const key = keyOf(kind, stored.id);
    forgetUnsaved(kind, stored.id);
    put({
      kind,
      id: stored.id,
      revision: stored.revision,
      document: freezeDocument(stored.document),
      state: 'saved',
      labels: [],
      problem: '',
    });
    undoStack.value = undoStack.value.filter((s) => s.key !== key);
    redoStack.value = redoStack.value.filter((s) => s.key !== key);
  }

  /** Forgets a document that was deleted. */
  function drop(kind: DocumentKind, id: string): void {
    const key = keyOf(kind, id);
    clearTimeout(timers.get(key));
    entries.delete(key);
    forgetUnsaved(kind, id);
    undoStack.value = undoStack.value.filter((s) => s.key !== key);
    redoStack.value = redoStack.value.filter((s) => s.key !== key);
  }

  function clear(): void {
    timers.forEach(clearTimeout);
    timers.clear();
    entries.clear();
    undoStack.value = [];
    redoStack.value = [];
    conflict.value = null;
  }

  function get<K extends DocumentKind>(kind: K, id: string): DocumentKinds[K] | undefined {
    return entries.get(keyOf(kind, id))?.document as DocumentKinds[K] | undefined;
  }

  function put(entry: Entry): void {
    entries.set(keyOf(entry.kind, entry.id), entry);
  }

  /**
   * Changes a document. Edits with the same non-empty `gesture` in a row (one drag) are undone together.
   */
  function edit<K extends DocumentKind>(
    kind: K,
    id: string,
    label: string,
    recipe: (draft: Draft<DocumentKinds[K]>) => void,
    gesture = '',
  ): void {
    const key = keyOf(kind, id);
    const entry = entries.get(key);
    if (!entry) return;
    const made = makeEdit(entry.document as DocumentKinds[K], label, recipe);
    if (made.edit.patches.length === 0) return;
    const last = undoStack.value.at(-1);
    const joins = gesture !== '' && last?.gesture === gesture && last.key === key;
    const step = { key, gesture, edit: joins ? joinEdits(last.edit, made.edit) : made.edit };
    undoStack.value = [...(joins ? undoStack.value.slice(0, -1) : undoStack.value), step].slice(-HISTORY);
    redoStack.value = [];
    change(entry, made.document, label);
  }

  function change(entry: Entry, document: DocumentKinds[DocumentKind], label: string): void {
    const labels = entry.labels.at(-1) === label ? entry.labels : [...entry.labels, label];
    put({ ...entry, document, labels, state: entry.state === 'conflict' ? 'conflict' : 'unsaved', problem: '' });
    keepUnsaved(entry.kind, entry.id, { base: entry.revision, document });
    schedule(keyOf(entry.kind, entry.id), SAVE_DELAY);
  }

  function undo(): void {
    step(undoStack, redoStack, 'Undo', undoEdit);
  }

  function redo(): void {
    step(redoStack, undoStack, 'Redo', redoEdit);
  }

  function step(from: typeof undoStack, to: typeof redoStack, word: string, apply: typeof undoEdit): void {
    const last = from.value.at(-1);
    const entry = last && entries.get(last.key);
    if (!last || !entry) return;
    from.value = from.value.slice(0, -1);
    to.value = [...to.value, { ...last, gesture: '' }];
    change(entry, freezeDocument(apply(entry.document as never, last.edit)), `${word} ${last.edit.label}`);
  }

  function schedule(key: string, delay: number): void {
    clearTimeout(timers.get(key));
    timers.set(
      key,
      setTimeout(() => void save(key), delay),
    );
  }

  async function save(key: string): Promise<void> {
    const entry = entries.get(key);
    if (!entry || (entry.state !== 'unsaved' && entry.state !== 'offline')) return;
    if (saving.value) {
      schedule(key, SAVE_DELAY / 2);
      return;
    }
    try {
      validateDocument(entry.kind, entry.document);
    } catch (error) {
      put({ ...entry, state: 'refused', problem: (error as Error).message });
      return;
    }
    saving.value = true;
    put({ ...entry, state: 'saving' });
    const label =
      entry.labels.length > 1
        ? `${entry.labels.at(-1)} and ${entry.labels.length - 1} more`
        : (entry.labels[0] ?? 'Edit');
    try {
      const { revision } = await api<{ revision: number }>('PUT', `/documents/${entry.kind}/${entry.id}`, {
        expectedRevision: entry.revision,
        label: label.slice(0, 200),
        document: entry.document,
      });
      saved(key, entry, revision);
    } catch (error) {
      failed(key, entry, error);
    } finally {
      saving.value = false;
    }
  }

  function saved(key: string, sent: Entry, revision: number): void {
    const now = entries.get(key);
    if (!now) return;
    if (now.document === sent.document) {
      put({ ...now, revision, state: 'saved', labels: [], problem: '' });
      forgetUnsaved(now.kind, now.id);
    } else {
      put({ ...now, revision, state: 'unsaved', labels: now.labels.slice(sent.labels.length) });
      keepUnsaved(now.kind, now.id, { base: revision, document: now.document });
      schedule(key, SAVE_DELAY);
    }
  }

  function failed(key: string, sent: Entry, error: unknown): void {
    const now = entries.get(key) ?? sent;
    if (error instanceof ApiProblem && error.status === 409) {
      put({ ...now, state: 'conflict' });
      conflict.value = {
        kind: now.kind,
        id: now.id,
        message: error.message,
        theirs: {
          revision: error.body.revision as number,
          document: error.body.document as DocumentKinds[DocumentKind],
        },
      };
    } else if (error instanceof ApiProblem && error.code !== UNREACHABLE && error.status < 500) {
      put({ ...now, state: 'refused', problem: error.message });
    } else {
      put({ ...now, state: 'offline', problem: '' });
      schedule(key, RETRY_DELAY);
    }
  }

  /** Ends a conflict: `mine` is saved over theirs (theirs stays in the history), or theirs is taken. */
  function settle(choice: 'mine' | 'theirs'): void {
    const open = conflict.value;
    if (!open) return;
    conflict.value = null;
    const key = keyOf(open.kind, open.id);
    const entry = entries.get(key)!;
    if (choice === 'mine') {
      put({ ...entry, revision: open.theirs.revision, state: 'unsaved' });
      schedule(key, 0);
      return;
    }
    replace(open.kind, { id: open.id, ...open.theirs });
  }

  /**
   * Resolves once everything is with the server, so that work begun there sees the newest state.
   * @throws Problem when something could not be saved; it says what.
   */
  async function settled(): Promise<void> {
    for (const key of entries.keys()) if (entries.get(key)!.state === 'unsaved') schedule(key, 0);
    while (state.value === 'unsaved' || state.value === 'saving') await new Promise((done) => setTimeout(done, 30));
    if (state.value === 'offline')
      throw new Problem(
        UNREACHABLE,
        'The server cannot be reached, so it does not have your last changes yet: try again when it answers.',
      );
    if (state.value !== 'saved')
      throw new Problem('document/unsaved', problem.value || 'Something is not saved yet: settle that first.');
  }

  const unsavedCount = computed(() => [...entries.values()].filter((e) => e.state !== 'saved').length);

  return {
    entries,
    conflict,
    state,
    problem,
    unsavedCount,
    undoStack,
    redoStack,
    load,
    replace,
    drop,
    clear,
    get,
    edit,
    undo,
    redo,
    settle,
    settled,
  };
});
