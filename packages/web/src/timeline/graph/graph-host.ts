import type { Command, Keyed, LinkedEase } from '@tender-orbit/core/document';
import type { KeySelection } from '../key-selection.ts';
import type { RuledBy } from './graph-lines.ts';

/** The document whose tracks a graph shows and changes. */
export interface GraphHost {
  eases: () => readonly LinkedEase[];
  run: (command: Command<Keyed>, gesture: string) => void;
  selection: KeySelection;
  ruledBy?: RuledBy;
  /** Keys are moved in time in the graph too, where they have no lane of their own. */
  movesInTime?: boolean;
}
