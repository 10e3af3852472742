import { writeFileSync } from 'node:fs';
import { damaged, randomFrom } from './mutate.ts';
import { seeds } from './seeds.ts';
import { readerPool } from '../../packages/server/src/readers/index.ts';
const all = await seeds(); const random = randomFrom(1); const pool = readerPool();
for (let i = 0; i < 2000; i++) {
  const seed = all[i % all.length]; const bytes = damaged(seed.bytes, random);
  if (seed.door !== 'picture' && seed.door !== 'panorama') continue;
  const path = `/tmp/fx/fuzz-${seed.name}`; writeFileSync(path, bytes);
  const start = performance.now();
  const task = seed.door === 'picture' ? { kind: 'picture', fileName: seed.name, path, longest: 4096, data: false, out: '/tmp/fx/out' } : { kind: 'panorama', fileName: seed.name, path, fit: '', mirror: false, out: '/tmp/fx/out' };
  await pool.run(task as never, { seconds: 8, tooHeavy: new Error('heavy') as never }).catch(() => 0);
  const ms = performance.now() - start;
  if (ms > 3000) { console.log(i, seed.name, Math.round(ms)); writeFileSync(`/tmp/fx/slow-${i}-${seed.name}`, bytes); }
}
await pool.close();
