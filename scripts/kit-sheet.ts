import { join } from 'node:path';
import { parseArgs } from 'node:util';
import sharp, { type OverlayOptions } from 'sharp';
import {
  newSet,
  newShot,
  nextProduct,
  openDocument,
  runCommand,
  useLights,
  type Builder,
  type ProductDocument,
  type TakeSnapshot,
} from '@tender-orbit/core/document';
import { FINISH_LIBRARY, type Finish } from '@tender-orbit/core/finish';
import { placementMatrix } from '@tender-orbit/core/geometry';
import { builtDocument, newBuilder, toneOf, TURNED_PRESETS } from '@tender-orbit/core/product';
import { fitSet, LIGHT_KITS, placeKit, standingBox, subjectOf } from '@tender-orbit/core/staging';
import { renderFrame } from '@tender-orbit/server';

/**
 * Renders every light kit on a pale box, a glass bottle, a dark tin and a white tube, and puts them on one sheet in
 * docs/screenshots. `--only KIT`, `--samples`, `--width` and `--out` are for a quick look.
 */
const { values } = parseArgs({
  options: {
    samples: { type: 'string', default: '48' },
    width: { type: 'string', default: '300' },
    out: { type: 'string', default: join('docs', 'screenshots', 'kits.jpg') },
    only: { type: 'string' },
  },
});
const width = Number(values.width);
const height = Math.round((width * 3) / 4);
const CAPTION = 24;

const ready = (name: string): Finish => FINISH_LIBRARY.find((entry) => entry.finish.name === name)!.finish;
/** A built product with all of its parts in one finish; absent: as the builder has it. */
function made(name: string, builder: Builder, finish?: Partial<Finish>): ProductDocument {
  const product = builtDocument(name, builder);
  return finish ? { ...product, finishes: product.finishes.map((f) => ({ ...f, ...finish })) } : product;
}
const TUBE: Builder = {
  ...TURNED_PRESETS.tin,
  profile: [
    [0, 0, 0],
    [0.018, 0, 0.002],
    [0.018, 0.022, 0.001],
    [0.021, 0.024, 0.004],
    [0.02, 0.13, 0.004],
    [0, 0.132, 0],
  ],
  wall: 0,
  cap: { kind: 'none', height: 0 },
};
const PRODUCTS: Record<string, ProductDocument> = {
  'pale box': made('Box', newBuilder('carton'), { baseColor: [0.82, 0.8, 0.76], roughness: 0.6 }),
  'glass bottle': made('Bottle', TURNED_PRESETS.bottle),
  'dark tin': made('Tin', TURNED_PRESETS.tin, { ...ready('Anodised black'), name: 'Tin' }),
  'white tube': made('Tube', TUBE, { ...ready('Painted plastic'), baseColor: [0.86, 0.86, 0.86], name: 'Tube' }),
};

function lit(kit: (typeof LIGHT_KITS)[number], product: ProductDocument): TakeSnapshot {
  const products = new Map([['p', product]]);
  const set = newSet('Kit');
  set.products = [nextProduct(set, 'first', { id: 'p', name: 'P' }, [0, 0], '')];
  const box = standingBox(product.extent, placementMatrix([0, 0, 0], 0, 0, 0, product.scale));
  const fitted = runCommand(
    openDocument(set),
    fitSet({ box, tone: toneOf(product), camera: 'hero', aspect: width / height }),
  );
  const subject = subjectOf(fitted, products, fitted.cameras[0]);
  return {
    set: runCommand(fitted, useLights(placeKit(kit, subject, 'kit'), kit)),
    shot: newShot(kit, 'set', 'hero', 1),
    products: { p: product },
    quality: 'final',
    width,
    height,
    samples: Number(values.samples),
  };
}

const kits = LIGHT_KITS.filter((kit) => !values.only || kit.startsWith(values.only));
const tiles: OverlayOptions[] = [];
for (const [row, kit] of kits.entries())
  for (const [column, [name, product]] of Object.entries(PRODUCTS).entries()) {
    const bytes = await renderFrame(lit(kit, product), 0, { paths: {}, simulations: '' });
    const [left, top] = [column * (width + 6), row * (height + CAPTION + 6)];
    const caption = `<svg width="${width}" height="${CAPTION}"><text x="2" y="16" font-family="sans-serif" font-size="13" fill="#E8E0D2">${kit}, ${name}</text></svg>`;
    tiles.push({ input: Buffer.from(bytes), left, top }, { input: Buffer.from(caption), left, top: top + height });
  }
await sharp({
  create: {
    width: Object.keys(PRODUCTS).length * (width + 6) - 6,
    height: kits.length * (height + CAPTION + 6) - 6,
    channels: 3,
    background: '#17151C',
  },
})
  .composite(tiles)
  .jpeg({ quality: 88 })
  .toFile(values.out);
