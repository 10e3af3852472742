import { generateNKeysBetween } from 'fractional-indexing';

type Item = Record<string, unknown>;

/** What items are known by in lists whose items have no id of their own, by the list's name. */
const IDENTITY: Record<string, (item: Item) => string | undefined> = {
  tracks: ({ thing, path }) => (thing === undefined ? undefined : `${String(thing)} ${String(path)}`),
  keys: ({ frame }) => keyOf(frame),
  fills: ({ slot }) => keyOf(slot),
  parts: ({ index }) => keyOf(index),
  unwraps: ({ part }) => keyOf(part),
  finishes: ({ part }) => keyOf(part),
};

const keyOf = (value: unknown): string | undefined => (value === undefined ? undefined : String(value));

/** What an item of the list called `name` is addressed by; undefined when such items have no address. */
export function identityOf(name: string, item: unknown): string | undefined {
  if (typeof item !== 'object' || item === null || Array.isArray(item)) return undefined;
  const { id } = item as Item;
  return typeof id === 'string' ? id : IDENTITY[name]?.(item as Item);
}

/** A list by the addresses of its items, or null when some have none or two have the same. */
export function byIdentity(name: string, list: readonly unknown[]): Map<string, unknown> | null {
  const items = new Map<string, unknown>();
  for (const item of list) {
    const key = identityOf(name, item);
    if (key === undefined || items.has(key)) return null;
    items.set(key, item);
  }
  return items;
}

/** Whether the order of a list is the person's own, and kept by the items' `order`; other lists are sorted by address. */
export function isOrdered(list: readonly unknown[]): boolean {
  return list.every((item) => typeof (item as Item).id === 'string');
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** A list in the order that its items ask for: the same items give the same list, however they came together. */
export function sorted(name: string, list: readonly unknown[]): unknown[] {
  if (isOrdered(list))
    return [...(list as Item[])].sort(
      (a, b) => compare(String(a.order ?? ''), String(b.order ?? '')) || compare(String(a.id), String(b.id)),
    );
  const rank = (item: unknown): string => identityOf(name, item) ?? '';
  const numeric = name !== 'tracks' && name !== 'fills';
  return [...list].sort((a, b) => (numeric ? Number(rank(a)) - Number(rank(b)) : compare(rank(a), rank(b))));
}

/** Whether a list stands as its items' orders say. */
export function isSettled(name: string, list: readonly unknown[]): boolean {
  if (!isOrdered(list)) {
    const right = sorted(name, list);
    return right.every((item, i) => item === list[i]);
  }
  let last = '';
  for (const { order } of list as Item[]) {
    if (typeof order !== 'string' || order <= last) return false;
    last = order;
  }
  return true;
}

/**
 * The list with an `order` on every item that says where it lies now. As many items as can keep theirs do, so that moving one
 * item changes one.
 */
export function settledList(name: string, list: readonly unknown[]): unknown[] {
  if (isSettled(name, list)) return list as unknown[];
  if (!isOrdered(list)) return sorted(name, list);
  const items = list as Item[];
  const kept = longestRise(items.map((item) => (typeof item.order === 'string' ? item.order : '')));
  const out: Item[] = [];
  for (let i = 0; i < items.length;) {
    if (kept.has(i)) {
      out.push(items[i++]);
      continue;
    }
    let end = i;
    while (end < items.length && !kept.has(end)) end++;
    const before = (out.at(-1)?.order as string | undefined) ?? null;
    const after = (items[end]?.order as string | undefined) ?? null;
    const orders = generateNKeysBetween(before, after, end - i);
    for (const order of orders) out.push({ ...items[i++], order });
  }
  return out;
}

/** Places of a longest strictly rising run among texts; empty ones are never part of it. */
function longestRise(values: readonly string[]): Set<number> {
  /** Place of the least end of a rise of each length, and what came before each place. */
  const ends: number[] = [];
  const previous = new Array<number>(values.length).fill(-1);
  values.forEach((value, i) => {
    if (value === '') return;
    let at = 0;
    while (at < ends.length && values[ends[at]] < value) at++;
    previous[i] = at > 0 ? ends[at - 1] : -1;
    ends[at] = i;
  });
  const kept = new Set<number>();
  for (let i = ends.at(-1) ?? -1; i >= 0; i = previous[i]) kept.add(i);
  return kept;
}
