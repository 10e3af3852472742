import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import sharp, { type OverlayOptions } from 'sharp';
import { newShot, type ProductDocument } from '@tender-orbit/core/document';
import { productOf, readModel } from '@tender-orbit/core/interchange';
import { makeModels, studies } from '@tender-orbit/demo';
import { renderFrame } from '@tender-orbit/server';

/**
 * Renders the demo's lighting studies and puts them on one sheet in docs/screenshots. `--only NAME` does one of them,
 * `--samples`, `--width` and `--out` are for a quick look.
 */
const { values } = parseArgs({
  options: {
    samples: { type: 'string', default: '64' },
    width: { type: 'string', default: '640' },
    out: { type: 'string', default: join('docs', 'screenshots', 'contact-sheet.jpg') },
    only: { type: 'string' },
  },
});
const width = Number(values.width);
const height = Math.round((width * 9) / 16);
const CAPTION = 26;
const folder = mkdtempSync(join(tmpdir(), 'demo-models-'));
const products: Record<string, ProductDocument> = {};
const paths: Record<string, string> = {};
for (const { key, fileName, glb } of await makeModels()) {
  paths[key] = join(folder, fileName);
  writeFileSync(paths[key], glb);
  products[`demo-${key}`] = productOf(fileName, { fileName, source: key, model: key, unit: 'm' }, await readModel(glb));
}
const all = studies({ jar: 'demo-jar', dipper: 'demo-dipper', box: 'demo-box' });
const wanted = values.only ? all.filter((s) => s.name.toLowerCase().startsWith(values.only!.toLowerCase())) : all;
const columns = Math.min(2, wanted.length);
const tiles: OverlayOptions[] = [];
for (const [i, { name, set, camera }] of wanted.entries()) {
  const shot = newShot(name, 'demo-set', camera, 1);
  const snapshot = { set, shot, products, quality: 'final' as const, width, height, samples: Number(values.samples) };
  const bytes = await renderFrame(snapshot, 0, { paths, simulations: folder });
  const [left, top] = [(i % columns) * (width + 8), Math.floor(i / columns) * (height + CAPTION + 8)];
  const caption = `<svg width="${width}" height="${CAPTION}"><text x="2" y="18" font-family="sans-serif" font-size="14" fill="#E8E0D2">${name}</text></svg>`;
  tiles.push({ input: Buffer.from(bytes), left, top }, { input: Buffer.from(caption), left, top: top + height });
  console.log(name);
}
const rows = Math.ceil(wanted.length / columns);
await sharp({
  create: {
    width: columns * (width + 8) - 8,
    height: rows * (height + CAPTION + 8) - 8,
    channels: 3,
    background: '#17151C',
  },
})
  .composite(tiles)
  .jpeg({ quality: 90 })
  .toFile(values.out);
rmSync(folder, { recursive: true });
