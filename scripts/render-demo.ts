import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { productOf, readModel } from '@tender-orbit/core/interchange';
import type { ProductDocument } from '@tender-orbit/core/document';
import { demoSet, heroShot, lidShot, makeModels, TAKE_SIZE, TAKES_FOLDER } from '@tender-orbit/demo';
import { renderFrame, type TakeSnapshot } from '@tender-orbit/server';

/**
 * Renders the demo's takes with the product's own renderer into packages/demo/data. Frames that are there stay, so it
 * can be stopped and started. `--part 0/2` does every second frame, for running one process a core.
 */
const [part, parts] = (process.argv[process.argv.indexOf('--part') + 1] ?? '').split('/').map(Number);
const share = process.argv.includes('--part') ? { part, parts } : { part: 0, parts: 1 };
const folder = mkdtempSync(join(tmpdir(), 'demo-models-'));
const products: Record<string, ProductDocument> = {};
const paths: Record<string, string> = {};
for (const { key, fileName, glb } of await makeModels()) {
  const name = join(folder, fileName);
  writeFileSync(name, glb);
  paths[key] = name;
  products[`demo-${key}`] = productOf(fileName, fileName, key, key, await readModel(glb));
}
const set = demoSet({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' });
for (const [key, shot] of [
  ['hero', heroShot('demo-set')],
  ['lid', lidShot('demo-set')],
] as const) {
  mkdirSync(join(TAKES_FOLDER, key), { recursive: true });
  const snapshot: TakeSnapshot = { set, shot, products, quality: 'final', ...TAKE_SIZE };
  for (let frame = share.part; frame < shot.length; frame += share.parts) {
    const path = join(TAKES_FOLDER, key, `${String(frame).padStart(5, '0')}.webp`);
    if (existsSync(path)) continue;
    const start = performance.now();
    // Near-lossless: an eighth smaller than the renderer's own files, with no difference to be seen.
    const frameBytes = await renderFrame(snapshot, frame, paths);
    writeFileSync(path, await sharp(frameBytes).webp({ nearLossless: true, quality: 80, effort: 6 }).toBuffer());
    console.log(`${key} ${frame + 1}/${shot.length} ${((performance.now() - start) / 1000).toFixed(1)} s`);
  }
}
rmSync(folder, { recursive: true });
