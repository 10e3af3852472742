import { editedRuns, type PromoVariable, type TextEdit, type TextRun, type Title } from '../document/index.ts';

/** A name between braces in a text. */
const SLOT = /\{([^{}\n]{1,60})\}/g;

/** Names that a text asks for. */
export const slotsOf = (text: string): string[] => [...new Set([...text.matchAll(SLOT)].map((m) => m[1].trim()))];

/** A text with the values of its variables in place of their names; a name that is not known stays as it is written. */
export function fillIn(text: string, variables: readonly PromoVariable[] = []): string {
  if (variables.length === 0 || !text.includes('{')) return text;
  const values = new Map(variables.map(({ name, value }) => [name.toLowerCase(), value]));
  return text.replace(SLOT, (whole, name: string) => values.get(name.trim().toLowerCase()) ?? whole);
}

/** A title as it reads; itself where nothing is filled in. Letters that are set apart stay so. */
export function filledTitle(title: Title, variables?: readonly PromoVariable[]): Title {
  const text = fillIn(title.text, variables);
  if (text === title.text) return title;
  return { ...title, text, ...runsOf(title, SLOT, (slot) => fillIn(slot, variables)) };
}

/** A title whose numbers are at a share of counting up to them. */
export function countedTitle(title: Title, t: number): Title {
  if (t >= 1) return title;
  return { ...title, text: countUp(title.text, t), ...runsOf(title, NUMBER, (number) => countUp(number, t)) };
}

/** Runs of a text in which some stretches have others in their place. */
function runsOf({ text, runs }: Title, pattern: RegExp, becomes: (found: string) => string): { runs?: TextRun[] } {
  if (!runs) return {};
  const edits = [...text.matchAll(pattern)].map((match): TextEdit => {
    const [found] = match;
    return { from: match.index, to: match.index + found.length, letters: becomes(found).length };
  });
  return { runs: editedRuns(runs, edits) };
}

/** A number with its thousands and decimals. */
const NUMBER = /\d[\d,]*(?:\.\d+)?/g;

/** The numbers of a text as they are at a share of counting up to them, with their own decimals and thousands. */
export function countUp(text: string, t: number): string {
  if (t >= 1) return text;
  return text.replace(NUMBER, (written) => {
    const [whole, part = ''] = written.split('.');
    const target = Number(written.replaceAll(',', ''));
    const now = (target * Math.max(0, t)).toFixed(part.length);
    const [digits, decimals] = now.split('.');
    const grouped = whole.includes(',')
      ? digits.replace(/\B(?=(?:\d{3})+$)/g, ',')
      : digits.padStart(zeros(whole), '0');
    return decimals === undefined ? grouped : `${grouped}.${decimals}`;
  });
}

/** How many digits a number that is written with zeros before it has. */
const zeros = (whole: string): number => (whole.startsWith('0') ? whole.length : 1);
