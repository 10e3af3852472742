/** A choice of a select. */
export interface SelectOption<V> {
  value: V;
  title: string;
  disabled?: boolean;
}
