import { Problem } from '@tender-orbit/core/problem';

/** Doubles a number, or goes wrong as it is told. */
export default async function echo({ n, how }: { n: number; how?: string }): Promise<number> {
  switch (how) {
    case 'for ever':
      for (;;) n += 1;
    case 'memory': {
      const all: number[][] = [];
      for (;;) all.push(new Array<number>(1e6).fill(n));
    }
    case 'problem':
      throw new Problem('a/b', 'What to do.', 'Jar');
    case 'defect':
      return (n as unknown as () => number)();
    case 'exit':
      process.exit(3);
  }
  return n * 2;
}
