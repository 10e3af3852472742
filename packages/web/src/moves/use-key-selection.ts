import { keySelection, type KeySelection } from '../timeline/key-selection.ts';

export type { ChosenKey } from '../timeline/key-selection.ts';

const selection = keySelection();

/** The keys chosen in a shot; the same wherever it is asked for. */
export const useKeySelection = (): KeySelection => selection;
