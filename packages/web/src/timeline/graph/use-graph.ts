import { ref, type Ref } from 'vue';
import type { GraphMode } from './graph-lines.ts';

/** Ids of the thread rows whose lines are open. */
const rows = ref<string[]>([]);
const mode = ref<GraphMode>('value');
const height = ref(128);

/** Which threads the graph shows, and how; the same wherever it is asked for. */
export function useGraph(): {
  rows: Ref<string[]>;
  mode: Ref<GraphMode>;
  height: Ref<number>;
  has: (row: string) => boolean;
  /** Opens the graph for a row alone, or closes it; with `more` the row joins those that are open, or leaves them. */
  toggle: (row: string, more: boolean) => void;
  close: () => void;
} {
  const has = (row: string): boolean => rows.value.includes(row);
  return {
    rows,
    mode,
    height,
    has,
    toggle: (row, more) => {
      if (has(row)) rows.value = rows.value.filter((r) => more && r !== row);
      else rows.value = more ? [...rows.value, row] : [row];
    },
    close: () => void (rows.value = []),
  };
}
