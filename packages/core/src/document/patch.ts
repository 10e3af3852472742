import isEqual from 'lodash-es/isEqual.js';
import { byIdentity, identityOf, isOrdered, isSettled, settledList, sorted } from './list-order.ts';

/**
 * A place in a document: names of fields, `#` and the address of an item for lists whose items have one, and an index for
 * short rows of numbers (a point's axes).
 */
export type PatchPath = readonly string[];

/** One change. Changes to different places can be made in any order. */
export type Patch =
  /** Gives a field another value; undefined takes an optional field away. */
  | { op: 'set'; path: PatchPath; value: unknown }
  /** Puts an item into a list. */
  | { op: 'add'; path: PatchPath; item: unknown }
  /** Takes an item out of its list. */
  | { op: 'remove'; path: PatchPath };

/** Rows of numbers up to this long are changed number by number. */
const ROW = 4;

type Node = Record<string, unknown>;

const isObject = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isRow = (value: readonly unknown[]): boolean =>
  value.length <= ROW && value.length > 0 && value.every((v) => typeof v === 'number');

/** What leads from one document to another. What both share is not looked into. */
export function diff(before: unknown, after: unknown): Patch[] {
  const patches: Patch[] = [];
  compare(before, after, [], patches);
  return patches;
}

function compare(before: unknown, after: unknown, path: PatchPath, out: Patch[]): void {
  if (Object.is(before, after)) return;
  if (isObject(before) && isObject(after)) {
    for (const name of new Set([...Object.keys(before), ...Object.keys(after)]))
      compare(before[name], after[name], [...path, name], out);
    return;
  }
  if (Array.isArray(before) && Array.isArray(after)) {
    const name = path.at(-1) ?? '';
    const [from, to] = [byIdentity(name, before), byIdentity(name, after)];
    if (from && to) {
      compareLists(from, to, path, out);
      return;
    }
    if (before.length === after.length && isRow(before) && isRow(after)) {
      before.forEach((v, i) => {
        if (!Object.is(v, after[i])) out.push({ op: 'set', path: [...path, String(i)], value: after[i] as unknown });
      });
      return;
    }
  }
  if (!isEqual(before, after)) out.push({ op: 'set', path, value: after });
}

function compareLists(
  from: ReadonlyMap<string, unknown>,
  to: ReadonlyMap<string, unknown>,
  path: PatchPath,
  out: Patch[],
): void {
  for (const key of from.keys()) if (!to.has(key)) out.push({ op: 'remove', path: [...path, `#${key}`] });
  for (const [key, item] of to) {
    const place = [...path, `#${key}`];
    if (from.has(key)) compare(from.get(key), item, place, out);
    else out.push({ op: 'add', path, item });
  }
}

/**
 * A document after changes, as a copy. A change whose place is gone is passed over: a deletion wins over an edit of what was
 * deleted. An item that is added twice is there once, as it was added last.
 */
export function applyPatches<T>(document: T, patches: readonly Patch[]): T {
  let next: unknown = document;
  for (const patch of patches) next = applied(next, patch, 0, '');
  return next as T;
}

function applied(node: unknown, patch: Patch, depth: number, name: string): unknown {
  const { path } = patch;
  const step = path[depth];
  if (depth === path.length) return atPlace(node, patch, name);
  if (step.startsWith('#')) {
    if (!Array.isArray(node)) return node;
    const at = node.findIndex((item) => identityOf(name, item) === step.slice(1));
    if (at < 0) return node;
    if (patch.op === 'remove' && depth === path.length - 1) return node.toSpliced(at, 1);
    const item = applied(node[at], patch, depth + 1, name);
    if (item === node[at]) return node;
    const list = node.with(at, item);
    // An item's place depends on its order, or on what it is addressed by.
    return isSettled(name, list) ? list : sorted(name, list);
  }
  if (Array.isArray(node)) {
    const at = Number(step);
    return at < node.length ? node.with(at, (patch as { value: unknown }).value) : node;
  }
  if (!isObject(node)) return node;
  const value = applied(node[step], patch, depth + 1, step);
  if (Object.is(value, node[step])) return node;
  if (value !== undefined) return { ...node, [step]: value };
  const { [step]: _gone, ...rest } = node;
  return rest;
}

function atPlace(node: unknown, patch: Patch, name: string): unknown {
  if (patch.op === 'set') return patch.value;
  if (patch.op !== 'add' || !Array.isArray(node)) return node;
  const key = identityOf(name, patch.item);
  const others = node.filter((item) => identityOf(name, item) !== key);
  return sorted(name, [...others, patch.item]);
}

/**
 * Whether two runs of changes touch the same place with different values. Where an item lies in its list is nobody's
 * quarrel, nor is a change inside something that the other side deleted.
 */
export function clashes(mine: readonly Patch[], theirs: readonly Patch[]): boolean {
  const sets = new Map<string, unknown>();
  for (const patch of theirs) if (patch.op === 'set') sets.set(patch.path.join('\n'), patch.value);
  if (sets.size === 0) return false;
  return mine.some((patch) => {
    if (patch.op !== 'set' || patch.path.at(-1) === 'order') return false;
    for (let depth = 1; depth <= patch.path.length; depth++) {
      const place = patch.path.slice(0, depth).join('\n');
      if (sets.has(place) && !(depth === patch.path.length && isEqual(sets.get(place), patch.value))) return true;
    }
    // Theirs may have changed something inside what I replaced whole.
    const inside = `${patch.path.join('\n')}\n`;
    return [...sets.keys()].some((place) => place.startsWith(inside));
  });
}

const settledDocuments = new WeakSet<object>();

/**
 * The document with every list in its order, which items carry with them from then on (fractional indices), so that edits
 * made in different places come together to the same list.
 */
export function settle<T>(document: T): T {
  if (typeof document !== 'object' || document === null || settledDocuments.has(document)) return document;
  const out = settleNode(document, '') as T & object;
  settledDocuments.add(out);
  return out;
}

/** As settle(), but what is the same object in `before`, which is settled, is taken as it is. */
export function settleChanges<T>(before: T, after: T): T {
  const out = settleNode(after, '', before) as T & object;
  settledDocuments.add(out);
  return out;
}

function settleNode(node: unknown, name: string, before?: unknown): unknown {
  if (typeof node !== 'object' || node === null || node === before) return node;
  if (Array.isArray(node)) {
    const first = node[0] as unknown;
    if (typeof first !== 'object') return node;
    const old = Array.isArray(before) ? byIdentity(name, before) : null;
    const items = mapped(node, (item) => settleNode(item, name, old?.get(identityOf(name, item) ?? '')));
    return byIdentity(name, items) && (isOrdered(items) || !isSettled(name, items)) ? settledList(name, items) : items;
  }
  let out = node as Node;
  for (const [key, value] of Object.entries(node)) {
    const next = settleNode(value, key, (before as Node | undefined)?.[key]);
    if (next === value) continue;
    if (out === node) out = { ...(node as Node) };
    out[key] = next;
  }
  return out;
}

/** map() that gives the list itself back when nothing changed. */
function mapped(list: unknown[], change: (item: unknown) => unknown): unknown[] {
  const out = list.map(change);
  return out.every((item, i) => item === list[i]) ? list : out;
}
