import { Problem } from '@tender-orbit/core/problem';
import { serveChild } from '../src/readers/serve-child.ts';

const kept: Uint8Array[] = [];

// Does what a hostile file would make a reader do.
serveChild({
  fill: async ({ mb }: { mb: number }) => {
    for (let i = 0; i < mb; i += 10) {
      kept.push(new Uint8Array(10 * 1024 * 1024).fill(1));
      await new Promise((next) => setTimeout(next, 5));
    }
    return kept.length;
  },
  hang: async () => {
    for (;;) Math.random();
  },
  crash: async () => process.kill(process.pid, 'SIGSEGV'),
  who: async () => process.pid,
  fail: async ({ thing }: { thing: string }) => {
    throw new Problem('test/failed', 'It failed as asked.', thing);
  },
});
