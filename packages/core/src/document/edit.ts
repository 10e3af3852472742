import { freeze, produce, type Draft, type Objectish } from 'immer';
import { applyPatches, clashes, diff, settle, settleChanges, type Patch } from './patch.ts';

/** Something a person does to a document: its readable name, and what it changes in a draft. */
export interface Command<D> {
  /** Shown by undo and in the revision list: `Move Key`. */
  label: string;
  run: (draft: D) => void;
}

/** One undoable step: what a person did, and how to do and undo it. */
export interface Edit {
  label: string;
  patches: readonly Patch[];
  inverse: readonly Patch[];
}

/** A document on its way into a store: lists in order, and deep-frozen, so that only edits can change it. */
export function openDocument<T>(document: T): T {
  return freeze(settle(document), true);
}

/** The document after a command; the original is untouched. A command that changed nothing gives the document itself. */
export function runCommand<T extends Objectish>(document: T, command: Command<T>): T {
  const base = settle(document);
  const next = produce(base, (draft: Draft<T>) => {
    command.run(draft as T);
  }) as T;
  return next === base ? document : freeze(settleChanges(base, next), true);
}

/**
 * The step between two states of a document. A drag is one step however many states it went through: from the one before
 * it to the one after it.
 */
export function editBetween(label: string, before: unknown, after: unknown): Edit {
  const from = settle(before);
  return { label, patches: diff(from, after), inverse: diff(after, from) };
}

/** Runs a command. An edit that changed nothing has no patches. */
export function makeEdit<T extends Objectish>(document: T, command: Command<T>): { document: T; edit: Edit } {
  const next = runCommand(document, command);
  return { document: next, edit: editBetween(command.label, document, next) };
}

export function redoEdit<T>(document: T, edit: Edit): T {
  return freeze(applyPatches(settle(document), edit.patches), true);
}

export function undoEdit<T>(document: T, edit: Edit): T {
  return freeze(applyPatches(settle(document), edit.inverse), true);
}

/**
 * My changes and theirs to the same document together, or null when both changed the same thing to something else: then a
 * person has to choose.
 */
export function mergeDocuments<T>(base: T, mine: T, theirs: T): T | null {
  const from = settle(base);
  const other = settle(theirs);
  const changes = diff(from, settle(mine));
  return clashes(changes, diff(from, other)) ? null : freeze(applyPatches(other, changes), true);
}
