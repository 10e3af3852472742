import { copyFileSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { productOf, readModel } from '@tender-orbit/core/interchange';
import type { ProductDocument, TakeSnapshot } from '@tender-orbit/core/document';
import {
  demoSet,
  heroShot,
  lidShot,
  makeModels,
  revealShot,
  SMOKE_FOLDER,
  TAKE_SETTINGS,
  TAKES_FOLDER,
  type DemoTake,
} from '@tender-orbit/demo';
import {
  chunkCount,
  depthsOf,
  developFrame,
  neighboursOf,
  packLight,
  readRaw,
  simulateEffect,
  SimulationStore,
  traceFrame,
} from '@tender-orbit/server';

/**
 * Renders the demo's takes with the product's own renderer into packages/demo/data. Frames that are there stay, so it
 * can be stopped and started. `--part 0/2` does the first half of each take, for running one process a core. `--depths` renders small
 * pictures of where things are instead, which the demo's composites need. `--smoke` simulates the coarse smoke that ships instead.
 */
const [part, parts] = (process.argv[process.argv.indexOf('--part') + 1] ?? '').split('/').map(Number);
const share = process.argv.includes('--part') ? { part, parts } : { part: 0, parts: 1 };
/** Size and samples of depths: the edges of what covers a pixel are what counts. */
const DEPTH = { width: 480, height: 270, quality: 'draft' as const, samples: 24 };
const folder = mkdtempSync(join(tmpdir(), 'demo-models-'));
const products: Record<string, ProductDocument> = {};
const paths: Record<string, string> = {};
for (const { key, fileName, glb } of await makeModels()) {
  const name = join(folder, fileName);
  writeFileSync(name, glb);
  paths[key] = name;
  products[`demo-${key}`] = productOf(fileName, { fileName, source: key, model: key, unit: 'm' }, await readModel(glb));
}
const set = demoSet({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' });
if (process.argv.includes('--smoke')) {
  await simulateSmoke();
  rmSync(folder, { recursive: true });
  process.exit(0);
}
for (const [key, shot] of [
  ['hero', heroShot('demo-set')],
  ['lid', lidShot('demo-set')],
  ['reveal', revealShot('demo-set')],
] as const) {
  mkdirSync(join(TAKES_FOLDER, key), { recursive: true });
  const snapshot: TakeSnapshot = { set, shot, products, ...TAKE_SETTINGS[key] };
  if (whole(key, shot.length)) continue;
  for (let chunk = 0; chunk < chunkCount(snapshot, 0); chunk++)
    await simulateEffect(snapshot, 0, chunk, { paths, simulations: folder });
  const rawOf = (frame: number): string => join(folder, `${key}-${frame}.raw`);
  const [first, end] = [share.part, share.part + 1].map((n) => Math.round((n / share.parts) * shot.length));
  if (process.argv.includes('--depths')) {
    await renderDepths(key, { ...snapshot, ...DEPTH }, first, end);
    continue;
  }
  for (let frame = first; frame < end; frame++) {
    const path = join(TAKES_FOLDER, key, `${String(frame).padStart(5, '0')}.webp`);
    if (existsSync(path)) continue;
    const start = performance.now();
    const around = neighboursOf(frame, snapshot);
    for (const f of around)
      if (!existsSync(rawOf(f))) await traceFrame(snapshot, f, { paths, simulations: folder }, rawOf(f));
    const bytes = await developFrame(snapshot, frame, rawOf, { exr: '', light: join(folder, 'light'), parts: '' });
    // Lossless, a frame would take five times the room in the repository.
    writeFileSync(path, await sharp(bytes).webp({ quality: 92, smartSubsample: true, effort: 6 }).toBuffer());
    // No later frame looks back so far.
    rmSync(rawOf(neighboursOf(frame + 1, snapshot)[0] - 1), { force: true });
    console.log(`${key} ${frame + 1}/${shot.length} ${((performance.now() - start) / 1000).toFixed(1)} s`);
  }
}
rmSync(folder, { recursive: true });

/** Whether all frames of a take, or depths where those are asked for, are there. */
function whole(key: DemoTake, frames: number): boolean {
  const ending = process.argv.includes('--depths') ? '.depth' : '.webp';
  return Array.from({ length: frames }, (_, frame) => `${String(frame).padStart(5, '0')}${ending}`).every((name) =>
    existsSync(join(TAKES_FOLDER, key, name)),
  );
}

/** Writes where things are in each frame of a take: what the demo's composites need beside its pictures. */
async function renderDepths(key: DemoTake, snapshot: TakeSnapshot, first: number, end: number): Promise<void> {
  const raw = join(folder, 'depth.raw');
  const { width, height } = snapshot;
  for (let frame = first; frame < end; frame++) {
    const path = join(TAKES_FOLDER, key, `${String(frame).padStart(5, '0')}.depth`);
    if (existsSync(path)) continue;
    await traceFrame(snapshot, frame, { paths, simulations: folder }, raw);
    const { hiding, passes, header } = await readRaw(raw, [
      ...['hiding', 'tint', 'depth', 'motion', 'thing', 'thingCover', 'finish', 'finishCover'],
    ]);
    const depths = depthsOf(passes, header.things, header.names.finishes, header.space, hiding.tint);
    // Pictures ship by themselves: no light takes next to no room.
    const light = new Float32Array(width * height * 3);
    writeFileSync(path, packLight({ width, height, light, matte: hiding.matte, depths }));
  }
}

async function simulateSmoke(): Promise<void> {
  const effects = set.effects.map((effect) => ({ ...effect, level: 'coarse' as const }));
  const snapshot: TakeSnapshot = {
    ...{ set: { ...set, effects }, shot: revealShot('demo-set'), products },
    ...TAKE_SETTINGS.reveal,
  };
  const keys: string[] = [];
  for (let chunk = 0; chunk < chunkCount(snapshot, 0); chunk++)
    keys.push(...(await simulateEffect(snapshot, 0, chunk, { paths, simulations: folder })));
  const store = new SimulationStore(folder);
  rmSync(SMOKE_FOLDER, { recursive: true, force: true });
  mkdirSync(SMOKE_FOLDER, { recursive: true });
  keys.forEach((key, n) =>
    copyFileSync(store.path(key), join(SMOKE_FOLDER, `${String(n + 1).padStart(5, '0')}.frame`)),
  );
  writeFileSync(join(SMOKE_FOLDER, 'keys.json'), `${JSON.stringify(keys, null, 2)}\n`);
}
