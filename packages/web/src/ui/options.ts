import type { SelectOption } from './select-option.ts';

/** A table of names as the options of a select, in the table's order. */
export function optionsOf<V extends string>(names: Readonly<Record<V, string>>): Array<SelectOption<V>> {
  return (Object.keys(names) as V[]).map((value) => ({ value, title: names[value] }));
}
