import { shortened } from '@tender-orbit/core/text';
import { until } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowReactive, shallowRef } from 'vue';
import {
  editBetween,
  mergeDocuments,
  migrate,
  openDocument,
  redoEdit,
  runCommand,
  undoEdit,
  validateDocument,
  type Command,
  type DocumentKind,
  type DocumentKinds,
} from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { api, ApiProblem, UNREACHABLE, type StoredDocument } from '../api/index.ts';
import { useNotices } from './notices.ts';
import { findUnsaved, forgetUnsaved, keepUnsaved } from './unsaved.ts';

type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'conflict' | 'refused';
type AnyDocument = DocumentKinds[DocumentKind];

interface Entry {
  kind: DocumentKind;
  id: string;
  /** Revision the server has, and what it holds. */
  revision: number;
  saved: AnyDocument;
  document: AnyDocument;
  state: SaveState;
  /** Names of the edits since the last save. */
  labels: string[];
  problem: string;
}

/** A step that can be undone: the document before and after it. One drag is one step in each document it changes. */
interface HistoryStep {
  key: string;
  /** Steps of the same group are undone together. */
  group: number;
  label: string;
  gesture: string;
  before: AnyDocument;
  after: AnyDocument;
}

export interface Conflict {
  kind: DocumentKind;
  id: string;
  message: string;
  theirs: { revision: number; document: AnyDocument };
}

/** Edits are saved once they have rested this long, in ms. */
export const SAVE_DELAY = 500;
/** Edits go to the browser's own storage once they have rested this long, so that a drag does not wait for it. */
const KEEP_DELAY = 200;
/** How long after a failed save the next one is tried, in ms. */
export const RETRY_DELAY = 3000;
const HISTORY = 500;

/** Documents in hand: edited by commands, undone, saved by themselves. */
export const useDocuments = defineStore('documents', () => {
  const notices = useNotices();
  const entries = shallowReactive(new Map<string, Entry>());
  const undoStack = shallowRef<HistoryStep[]>([]);
  const redoStack = shallowRef<HistoryStep[]>([]);
  const conflict = shallowRef<Conflict | null>(null);
  let groups = 0;
  const saving = ref(false);
  /** Set once the browser could not keep something; said once. */
  const unkept = ref(false);
  const saveTimers = new Map<string, ReturnType<typeof setTimeout>>();
  const keepTimers = new Map<string, ReturnType<typeof setTimeout>>();
  const keyOf = (kind: DocumentKind, id: string): string => `${kind}:${id}`;

  const state = computed<SaveState>(() => {
    const states = [...entries.values()].map((e) => e.state);
    return (
      (['conflict', 'refused', 'offline', 'saving', 'unsaved'] as const).find((s) => states.includes(s)) ?? 'saved'
    );
  });
  const problem = computed(() => [...entries.values()].find((e) => e.problem)?.problem ?? '');

  /** Takes a document that came from the server. */
  function load<K extends DocumentKind>(kind: K, { id, revision, document }: StoredDocument<K>): void {
    const opened = openDocument(document) as AnyDocument;
    put({ kind, id, revision, saved: opened, document: opened, state: 'saved', labels: [], problem: '' });
  }

  /** Takes up again what had not reached the server when the page was left. */
  async function resume(kind: DocumentKind, id: string): Promise<void> {
    const kept = await findUnsaved(kind, id);
    const entry = entries.get(keyOf(kind, id));
    if (!kept || !entry) return;
    // The revision the edits were made on decides: if the server has moved on, they are merged with what is there.
    put({
      ...entry,
      revision: kept.base,
      saved: openDocument(kept.saved),
      document: openDocument(kept.document),
      state: 'unsaved',
      labels: ['Edits from before the reload'],
    });
    schedule(keyOf(kind, id), 0);
  }

  /** Takes a document that the server changed by itself; steps that led to the old one can no longer be undone. */
  function replace<K extends DocumentKind>(kind: K, stored: StoredDocument<K>): void {
    forget(kind, stored.id);
    load(kind, stored);
  }

  /** Forgets a document that was deleted. */
  function drop(kind: DocumentKind, id: string): void {
    entries.delete(keyOf(kind, id));
    forget(kind, id);
  }

  function forget(kind: DocumentKind, id: string): void {
    const key = keyOf(kind, id);
    clearTimeout(saveTimers.get(key));
    clearTimeout(keepTimers.get(key));
    void forgetUnsaved(kind, id);
    undoStack.value = undoStack.value.filter((s) => s.key !== key);
    redoStack.value = redoStack.value.filter((s) => s.key !== key);
  }

  /** Lets go of all documents. What is not saved yet waits in the browser for the next time: resolves when it does. */
  function clear(): Promise<void> {
    const kept = keepAll();
    for (const timers of [saveTimers, keepTimers]) {
      timers.forEach(clearTimeout);
      timers.clear();
    }
    entries.clear();
    undoStack.value = [];
    redoStack.value = [];
    conflict.value = null;
    return kept;
  }

  function get<K extends DocumentKind>(kind: K, id: string): DocumentKinds[K] | undefined {
    return entries.get(keyOf(kind, id))?.document as DocumentKinds[K] | undefined;
  }

  function put(entry: Entry): void {
    entries.set(keyOf(entry.kind, entry.id), entry);
  }

  /**
   * Runs a command on a document. Commands with the same non-empty `gesture` in a row (one drag) are one step.
   */
  function run<K extends DocumentKind>(kind: K, id: string, command: Command<DocumentKinds[K]>, gesture = ''): void {
    const key = keyOf(kind, id);
    const entry = entries.get(key);
    if (!entry) return;
    const before = entry.document;
    const after = runCommand(before as DocumentKinds[K], command) as AnyDocument;
    if (after === before) return;
    remember({ key, gesture, label: command.label, before, after });
    change(entry, after, command.label);
  }

  function remember(made: Omit<HistoryStep, 'group'>): void {
    const steps = [...undoStack.value];
    const last = steps.at(-1);
    const goesOn = made.gesture !== '' && last?.gesture === made.gesture;
    const at = goesOn ? steps.findLastIndex((s) => s.group === last.group && s.key === made.key) : -1;
    if (at >= 0 && steps[at].after === made.before) steps[at] = { ...steps[at], label: made.label, after: made.after };
    else steps.push({ ...made, group: goesOn ? last.group : ++groups });
    undoStack.value = steps.slice(-HISTORY);
    redoStack.value = [];
  }

  function change(entry: Entry, document: AnyDocument, label: string): void {
    const key = keyOf(entry.kind, entry.id);
    const labels = entry.labels.at(-1) === label ? entry.labels : [...entry.labels, label];
    put({ ...entry, document, labels, state: entry.state === 'conflict' ? 'conflict' : 'unsaved', problem: '' });
    keepSoon(key);
    schedule(key, SAVE_DELAY);
  }

  function keepSoon(key: string): void {
    clearTimeout(keepTimers.get(key));
    keepTimers.set(
      key,
      setTimeout(() => void keep(key), KEEP_DELAY),
    );
  }

  async function keep(key: string): Promise<void> {
    const entry = entries.get(key);
    if (!entry || entry.state === 'saved') return;
    const { kind, id, revision, saved, document } = entry;
    try {
      await keepUnsaved(kind, id, { base: revision, saved, document });
      // It may have been saved while it was being kept.
      if (entries.get(key)?.state === 'saved') await forgetUnsaved(kind, id);
    } catch {
      if (!unkept.value)
        notices.refuse(
          'This browser cannot keep unsaved changes (its storage is full or forbidden): do not close the page before all is saved.',
        );
      unkept.value = true;
    }
  }

  /** Keeps everything at once, as the page may be left. */
  async function keepAll(): Promise<void> {
    keepTimers.forEach(clearTimeout);
    keepTimers.clear();
    await Promise.all([...entries.keys()].map(keep));
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
    const edit = editBetween(last.label, last.before, last.after);
    change(entry, apply(entry.document, edit), `${word} ${last.label}`);
    if (from.value.at(-1)?.group === last.group) step(from, to, word, apply);
  }

  function schedule(key: string, delay: number): void {
    clearTimeout(saveTimers.get(key));
    saveTimers.set(
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
        label: shortened(label, 200),
        document: entry.document,
      });
      whenSaved(key, entry, revision);
    } catch (error) {
      whenFailed(key, entry, error);
    } finally {
      saving.value = false;
    }
  }

  function whenSaved(key: string, sent: Entry, revision: number): void {
    const now = entries.get(key);
    if (!now) return;
    const saved = sent.document;
    if (now.document === saved) {
      put({ ...now, revision, saved, state: 'saved', labels: [], problem: '' });
      clearTimeout(keepTimers.get(key));
      void forgetUnsaved(now.kind, now.id);
    } else {
      put({ ...now, revision, saved, state: 'unsaved', labels: now.labels.slice(sent.labels.length) });
      keepSoon(key);
      schedule(key, SAVE_DELAY);
    }
  }

  function whenFailed(key: string, sent: Entry, error: unknown): void {
    const now = entries.get(key) ?? sent;
    if (error instanceof ApiProblem && error.status === 409) {
      whenStale(now, error);
    } else if (error instanceof ApiProblem && error.code !== UNREACHABLE && error.status < 500) {
      put({ ...now, state: 'refused', problem: error.message });
    } else {
      put({ ...now, state: 'offline', problem: '' });
      schedule(key, RETRY_DELAY);
    }
  }

  /** Somebody saved in between: both sides' changes come together, unless they touch the same thing. */
  function whenStale(entry: Entry, error: ApiProblem): void {
    const { kind, id } = entry;
    const revision = error.body.revision as number;
    const theirs = openDocument(migrate(kind, error.body.document as object));
    const merged = merge(entry, theirs);
    if (!merged) {
      put({ ...entry, state: 'conflict' });
      conflict.value = { kind, id, message: error.message, theirs: { revision, document: theirs } };
      return;
    }
    const key = keyOf(kind, id);
    put({ ...entry, revision, saved: theirs, document: merged, state: 'unsaved' });
    keepSoon(key);
    schedule(key, 0);
    notices.done(`Changes made elsewhere to this ${kind} were taken in beside yours.`);
  }

  function merge({ kind, saved, document }: Entry, theirs: AnyDocument): AnyDocument | null {
    const merged = mergeDocuments(saved, document, theirs);
    try {
      return merged && openDocument(validateDocument(kind, merged));
    } catch {
      // Each side is sound, but not both at once: too many lights, the last camera gone.
      return null;
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
      put({ ...entry, revision: open.theirs.revision, saved: open.theirs.document, state: 'unsaved' });
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
    await until(state).toMatch((now) => now !== 'unsaved' && now !== 'saving');
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
    ...{ entries, conflict, state, problem, unsavedCount, undoStack, redoStack },
    ...{ load, resume, replace, drop, clear, get, run, undo, redo, settle, settled, keepAll },
  };
});
