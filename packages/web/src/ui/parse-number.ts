import jsep, { type Expression } from 'jsep';

/** What typed units are worth in the field's own unit. */
const UNITS: Record<string, Record<string, number>> = {
  cm: { mm: 0.1, cm: 1, m: 100 },
  m: { mm: 0.001, cm: 0.01, m: 1 },
  mm: { mm: 1, cm: 10, m: 1000 },
  deg: { deg: 1, rad: 180 / Math.PI },
  K: { K: 1, k: 1 },
  s: { s: 1, ms: 0.001 },
  f: { f: 1 },
  '%': {},
  lm: { lm: 1 },
};

/**
 * A number as people type it: plain, with arithmetic (`360*5`, `12/2 + 1`), or with a unit (`1.2 m` in a field of cm).
 * @returns the value in the field's unit, or null when it is not a finite number.
 */
export function parseNumber(text: string, unit = ''): number | null {
  const cleaned = text.trim().replace(/,/g, '.').replace(/%$/, '');
  if (cleaned === '' || cleaned.length > 200) return null;
  const units = UNITS[unit] ?? {};
  // "1.2 m" becomes "1.2*(100)"; only units that this field knows.
  const withUnits = cleaned.replace(/(\d|\.|\))\s*([a-zA-Z]+)/g, (whole, before: string, word: string) =>
    word in units ? `${before}*(${units[word]})` : whole,
  );
  try {
    const value = evaluate(jsep(withUnits));
    return Number.isFinite(value) ? value : null;
  } catch {
    return null;
  }
}

function evaluate(node: Expression): number {
  if (node.type === 'Literal' && typeof node.value === 'number') return node.value;
  if (node.type === 'UnaryExpression') {
    const value = evaluate(node.argument as Expression);
    if (node.operator === '-') return -value;
    if (node.operator === '+') return value;
  }
  if (node.type === 'BinaryExpression') {
    const a = evaluate(node.left as Expression);
    const b = evaluate(node.right as Expression);
    if (node.operator === '+') return a + b;
    if (node.operator === '-') return a - b;
    if (node.operator === '*') return a * b;
    if (node.operator === '/') return a / b;
  }
  return NaN;
}

/** As many decimals as the step needs, without trailing zeros. */
export function formatNumber(value: number, step: number): string {
  const decimals = Math.max(0, Math.min(4, Math.ceil(-Math.log10(step)) + 1));
  return String(Number(value.toFixed(decimals)));
}
