import { computed, type ComputedRef } from 'vue';

/**
 * `next` with every part that is equal to the same part of `before` taken from there, so that whoever watches a part hears
 * of real changes alone. For plain data: lists, and objects without prototypes of their own.
 */
export function kept<T>(before: unknown, next: T): T {
  if (Object.is(before, next) || !plain(next) || !plain(before) || Array.isArray(before) !== Array.isArray(next))
    return Object.is(before, next) ? (before as T) : next;
  const old = before as Record<string, unknown>;
  const fresh = next as Record<string, unknown>;
  const keys = Object.keys(fresh);
  let same = keys.length === Object.keys(old).length;
  for (const key of keys) {
    fresh[key] = kept(old[key], fresh[key]);
    same &&= key in old && Object.is(fresh[key], old[key]);
  }
  return same ? (before as T) : next;
}

/** A computed value whose equal parts stay the very same from one time to the next. @param make returns fresh plain data. */
export function keptComputed<T>(make: () => T): ComputedRef<T> {
  return computed<T>((before) => kept(before, make()));
}

function plain(value: unknown): value is object {
  return typeof value === 'object' && value !== null && (Array.isArray(value) || value.constructor === Object);
}
