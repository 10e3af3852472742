import { applyPatches, enablePatches, freeze, produceWithPatches, type Draft, type Objectish, type Patch } from 'immer';

enablePatches();

/** One undoable step: what a person did, and how to do and undo it. */
export interface Edit {
  /** Readable name, shown by undo and in the revision list: `Move Key`. */
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/**
 * Runs `recipe` on a draft of `document`. The original is untouched; an edit that changed nothing has no patches.
 */
export function makeEdit<T extends Objectish>(
  document: T,
  label: string,
  recipe: (draft: Draft<T>) => void,
): { document: T; edit: Edit } {
  const [next, patches, inverse] = produceWithPatches(document, (draft) => {
    recipe(draft as Draft<T>);
  });
  return { document: next as T, edit: { label, patches, inverse } };
}

export function redoEdit<T extends Objectish>(document: T, edit: Edit): T {
  return applyPatches(document, edit.patches) as T;
}

export function undoEdit<T extends Objectish>(document: T, edit: Edit): T {
  return applyPatches(document, edit.inverse) as T;
}

/**
 * Two edits as one, for a drag that makes many small ones. Order matters: `first` happened first.
 */
export function joinEdits(first: Edit, second: Edit): Edit {
  return {
    label: second.label,
    patches: [...first.patches, ...second.patches],
    inverse: [...second.inverse, ...first.inverse],
  };
}

/** Deep-freezes a document on its way into a store, so that only edits can change it. */
export function freezeDocument<T>(document: T): T {
  return freeze(document, true);
}
