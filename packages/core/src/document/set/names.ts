import { shortened } from '../../text/index.ts';
/** `name`, or `name 2`, `name 3`... when it is taken. */
export function freshName(taken: readonly string[], name: string): string {
  const base = shortened(name.replace(/ \d+$/, ''), 110);
  if (!taken.includes(base)) return base;
  let n = 2;
  while (taken.includes(`${base} ${n}`)) n++;
  return `${base} ${n}`;
}

export const namesOf = (things: ReadonlyArray<{ name: string }>): string[] => things.map((thing) => thing.name);
