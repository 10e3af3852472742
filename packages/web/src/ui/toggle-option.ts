/** A choice of a row of toggles. */
export interface ToggleOption<V> {
  value: V;
  label: string;
  /** SVG path instead of the words, which become its name. */
  icon?: string;
  tip?: string;
  /** For tests. */
  test?: string;
  disabled?: boolean;
}
