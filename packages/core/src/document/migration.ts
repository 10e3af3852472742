/** A stored document of some earlier version. */
export type Stored = Record<string, unknown>;

/**
 * A step from one version to the next. It is frozen once it has landed: literals only, never a default or type of today, so
 * that the document that a step makes is the same for ever.
 */
export type Migration = (old: Stored) => Stored;

/** Each item of a stored list with the fields of `values` that it has not got yet. */
export function eachOf(list: unknown, values: () => Stored): Stored[] {
  return ((list as Stored[] | undefined) ?? []).map((item) => ({ ...values(), ...item }));
}

/** Each item of a stored list as `change` makes it. */
export function mapOf(list: unknown, change: (item: Stored) => Stored): Stored[] {
  return ((list as Stored[] | undefined) ?? []).map(change);
}

/** A stored object with some of its fields under new names. */
export function renamed(stored: Stored, names: Readonly<Record<string, string>>): Stored {
  return Object.fromEntries(Object.entries(stored).map(([key, value]) => [names[key] ?? key, value]));
}
