import sharp from 'sharp';
import { ArtRoom } from './art.ts';
import { makeJar } from './jar.ts';
import { makeDipper } from './dipper.ts';
import { makeGiftBox } from './gift-box.ts';
import { evaluate } from '@tender-orbit/core/motion';
import { newShot } from '@tender-orbit/core/document';
import { productOf } from '@tender-orbit/core/interchange';
import { packScene, traceFrame, denoise, QUALITIES } from '@tender-orbit/core/trace';
import { toDisplay } from '@tender-orbit/core/picture';
const art = await ArtRoom.open();
const models: any = { jar: makeJar(art.label()), dipper: makeDipper(art.wood()), box: makeGiftBox(art.boxFront()) };
const products = new Map<string, any>(); const data = new Map<string, any>();
for (const k of Object.keys(models)) {
  const m = models[k]; products.set(k, productOf(k, k, 'a', k, m));
  const images = [];
  for (const i of m.images) { const r = await sharp(i.bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true }); images.push({ width: r.info.width, height: r.info.height, data: r.data }); }
  data.set(k, { meshes: m.parts.map((p: any) => p.mesh), images });
  console.log(k, m.parts.reduce((n: number, p: any) => n + p.mesh.indices.length / 3, 0), products.get(k).extent);
}
const { demoSet } = await import('./demo-set.ts');
const set = demoSet({ jar: 'jar', dipper: 'dipper', box: 'box' });
const [, , w = '480', spp = '8', quality = 'final', cam = 'hero', out = '/tmp/t/a.png'] = process.argv;
const shot = newShot('s', 's', cam, 48);
const width = +w, height = Math.round((+w * 9) / 16);
const t0 = performance.now();
const tab = evaluate(set, shot, 0, { products, meshes: (m) => data.get(m)?.meshes, aspect: 16 / 9 });
const scene = packScene(tab, data);
const t1 = performance.now();
const q = (QUALITIES as any)[quality];
const passes = traceFrame(scene, { width, height, samples: +spp, limits: { ...q.limits, exposureScale: tab.camera.exposureScale }, frame: 0 })!;
const t2 = performance.now();
const clean = process.env.RAW ? passes.beauty : denoise(passes);
const t3 = performance.now();
console.log('pack', t1 - t0, 'trace', t2 - t1, 'denoise', t3 - t2, 'tris', scene.triangleMaterial.length);
const pic = toDisplay({ width, height, data: clean }, tab.camera.exposureScale);
await sharp(Buffer.from(pic.data.buffer), { raw: { width, height, channels: 4 } }).png().toFile(out);
