import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import {
  CAMERA,
  INSTANCE,
  INSTANCE_FLAG,
  LIGHT,
  LIGHT_KIND,
  MATERIAL,
  PLANES,
  RAY,
  TEXTURE,
  TILE,
} from '@tender-orbit/core/trace';

/**
 * Writes the constants that the kernel shares with core as AssemblyScript, from core's tables alone, so that both sides can
 * never differ. `--check` writes nothing and fails when the file is not what it would write.
 */
const FILE = fileURLToPath(new URL('../packages/kernel/assembly/layout.ts', import.meta.url));

const upper = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c}`).toUpperCase();

/** A table's entries under a prefix; the stride stands under the table's own name. */
function constants(prefix: string, table: Readonly<Record<string, number>>, name = ''): string[] {
  return Object.entries(table).map(([key, value]) =>
    key === 'stride'
      ? `export const ${name}_STRIDE: i32 = ${value};`
      : `export const ${prefix}_${upper(key)}: i32 = ${value};`,
  );
}

const planes = Object.fromEntries([...PLANES.map(([plane]) => plane), 'lights'].map((plane, index) => [plane, index]));
const text = [
  '// Made by scripts/kernel-layout.ts from the tables in packages/core/src/trace/layout.ts, which say what each field is.',
  ...constants('M', MATERIAL, 'MATERIAL'),
  ...constants('L', LIGHT, 'LIGHT'),
  ...constants('LIGHT', LIGHT_KIND),
  ...constants('I', INSTANCE, 'INSTANCE'),
  ...constants('FLAG', INSTANCE_FLAG),
  ...constants('RAY', RAY),
  ...constants('C', CAMERA),
  ...constants('P', planes),
  ...constants('TEXTURE', TEXTURE, 'TEXTURE'),
  `export const TILE: i32 = ${TILE};`,
  '',
].join('\n');

if (process.argv.includes('--check')) {
  if (readFileSync(FILE, 'utf8') !== text) {
    console.error('packages/kernel/assembly/layout.ts is not what core’s tables say: run "npm run kernel:layout".');
    process.exit(1);
  }
} else writeFileSync(FILE, text);
