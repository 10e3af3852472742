import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { Bench } from './bench.ts';
import { beatBenches } from './beats.ts';
import { denoiseBenches } from './denoise.ts';
import { edgeBenches } from './edges.ts';
import { evaluateBenches } from './evaluate.ts';
import { pictureBenches } from './picture.ts';
import { promoBenches } from './promo.ts';
import { simulateBenches } from './simulate.ts';
import { takeBenches } from './take.ts';
import { traceBenches } from './trace.ts';
import { importBenches } from './import.ts';
import { webBenches } from './web.ts';

/**
 * `npm run bench` prints a table; `-- --only PREFIX,...` runs a part, `-- --json FILE` writes the rows as well.
 * Absolute figures depend on the machine; where there is something to compare with, both are measured in the same run.
 */
const { values } = parseArgs({ options: { only: { type: 'string' }, json: { type: 'string' } } });
const prefixes = values.only?.split(',').map((p) => p.trim()) ?? [];
const benches: Bench[] = [
  ...evaluateBenches,
  ...simulateBenches,
  ...pictureBenches,
  ...promoBenches,
  ...beatBenches,
  ...traceBenches,
  ...denoiseBenches,
  ...edgeBenches,
  ...takeBenches,
  ...importBenches,
  ...webBenches,
];
const wanted = prefixes.length > 0 ? benches.filter((b) => prefixes.some((p) => b.name.startsWith(p))) : benches;
if (wanted.length === 0) {
  console.error(`No bench begins with "${values.only}". There are: ${benches.map((b) => b.name).join(', ')}.`);
  process.exit(1);
}

const rows = [];
for (const bench of wanted) {
  const { value, note } = await bench.run();
  const row = { name: bench.name, value: Number(value.toPrecision(4)), unit: bench.unit, note };
  rows.push(row);
  console.log(`${row.name.padEnd(34)} ${String(row.value).padStart(10)} ${row.unit.padEnd(12)} ${row.note}`);
}
if (values.json) writeFileSync(values.json, `${JSON.stringify(rows, null, 2)}\n`);
