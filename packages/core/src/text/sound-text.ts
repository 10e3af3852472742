/** Deepest nesting that a document has, with room to spare. */
const DEEPEST = 64;

/**
 * What is wrong with data that a stranger sent, in words; null when nothing is. Nesting without end, keys that reach into an
 * object's own machinery, and halves of characters have no place in any document.
 */
export function unsoundData(data: unknown, depth = 0): string | null {
  if (typeof data === 'string') return isWhole(data) ? null : 'a text in it holds half a character';
  if (typeof data !== 'object' || data === null) return null;
  if (depth > DEEPEST) return `it is nested more than ${DEEPEST} deep`;
  for (const [key, value] of Object.entries(data)) {
    if (key === '__proto__') return 'it has a field named __proto__';
    const wrong = (isWhole(key) ? null : 'a name in it holds half a character') ?? unsoundData(value, depth + 1);
    if (wrong) return wrong;
  }
  return null;
}

/** Whether every surrogate has its other half. */
function isWhole(text: string): boolean {
  return !/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(text);
}
